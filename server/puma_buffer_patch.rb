# frozen_string_literal: true

require "puma"
require "puma/server"

module Fobrel
  # Puma 6 to 8 keep what is to be sent in a buffer of the connection, and a thread that has handed the connection
  # on empties it once more when it leaves: the next request may have been taken up by another thread by then, whose
  # answer loses its first lines ("invalid HTTP response" in the browser, and a page without its script). As in
  # Puma 5, each thread has a buffer of its own here.
  module PumaBufferPatch
    # @return [Puma::IOBuffer] of the thread that asks
    def io_buffer
      thread = Thread.current
      thread.thread_variable_get(:fobrel_answer) ||
        Puma::IOBuffer.new.tap { |fresh| thread.thread_variable_set(:fobrel_answer, fresh) }
    end

    Puma::Client.prepend(self)
  end
end
