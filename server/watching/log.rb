# frozen_string_literal: true

require "logger"

module Fobrel
  module Watching
    # What happened, a JSON object a line: in `log/fobrel.jsonl` below var, or where FOBREL_LOG says ("-" is the
    # terminal). Neither what was sent nor what was answered is in it, nor anything that opens a door.
    #
    #   {"at":"2026-11-27T10:00:00.123Z","event":"request","id":"5f…","verb":"GET","route":"/api/inbox","status":200,…}
    module Log
      # A file that is begun anew when it is large, without a line of the library's own at its head.
      class Lines < ::Logger::LogDevice
        private

        def add_log_header(_) = nil
      end

      # So many files of so many bytes are kept.
      FILES = 5
      BYTES = 20 * 1024 * 1024
      # Lines of a trouble's way through the code, and letters of what it says.
      LINES = 8
      LETTERS = 300
      # What a database adds may hold what was sent.
      ADDED = /\n?(DETAIL|HINT|LINE|CONTEXT):.*/m
      # A session's cookie, and a token of ours or of a gallery's, wherever they are told.
      KEYS = /(?<=fobrel\.session=)[^;\s]+|\bfobrel_[\w-]{20,}|(?<=Bearer )\S+/
      private_constant :KEYS, :Lines, :FILES, :BYTES, :LINES, :LETTERS, :ADDED

      class << self
        # @param event [String] such as "request"
        # @param fields [Hash] what JSON can say; nil is left out
        def line(event, **fields)
          device.write("#{JSON.generate({at: Time.now.utc.iso8601(3), event:, **fields}.compact)}\n")
        rescue SystemCallError, IOError
          nil # a full disk must not stop the work itself
        end

        # What went wrong without anybody being to blame; told at the terminal too.
        #
        # @param what [String] that was being done
        # @param error [Exception, String]
        def trouble(what, error, **fields)
          said = error.is_a?(Exception) ? "#{error.class}: #{message(error)}" : error
          from = error.backtrace&.first(LINES) if error.is_a?(Exception)
          warn(["#{what}: #{said}", *from].join("\n"))
          line("trouble", what:, said:, from:, **fields)
        end

        # Closed and opened where it is needed next: for processes that are split off.
        def again = @device = nil

        private

        # Ruby tells of a name that it does not know what it was looked for in, which may have been sent.
        def message(error)
          return error.name.to_s if error.is_a?(NameError)
          error.message.scrub.sub(ADDED, "").gsub(KEYS, "…")[0, LETTERS]
        end

        def device = @device ||= at(ENV.fetch("FOBREL_LOG", File.join(Fobrel.var, "log/fobrel.jsonl")))

        def at(place)
          return $stdout if place == "-"
          FileUtils.mkdir_p(File.dirname(place))
          Lines.new(place, shift_age: FILES, shift_size: BYTES)
        end
      end
    end
  end
end
