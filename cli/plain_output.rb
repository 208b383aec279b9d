# frozen_string_literal: true

module Fobrel
  # Writes lines to a terminal. Names come from files and from other people: a control character in one of them could
  # move the cursor, change what is shown or answer for the person, so each is shown as a mark instead.
  class PlainOutput
    # C0 but for tab and line feed, DEL, and C1 (ECMA-48).
    CONTROL = /[\u0000-\u0008\u000B-\u001F\u007F-\u009F]/
    MARK = "\uFFFD"
    private_constant :CONTROL, :MARK

    # @param io [IO]
    def initialize(io)
      @io = io
    end

    # @param lines [Array<String, Array<String>>]
    def puts(*lines) = @io.puts(lines.flatten.map { |line| plain(line.to_s) })

    def flush = @io.flush

    private

    def plain(text)
      text = text.dup.force_encoding(Encoding::UTF_8) if text.encoding == Encoding::BINARY
      text.scrub(MARK).gsub(CONTROL, MARK)
    end
  end
end
