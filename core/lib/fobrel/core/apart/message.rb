# frozen_string_literal: true

module Fobrel
  module Core
    module Apart
      # Values between a program and a process that works for it.
      module Message
        # @param till [Float, nil] on the monotonic clock
        # @param gone [#call, nil] asked now and then whether to leave
        # @return the value; nil at the end
        # @raise [Timeout::Error, Gone]
        def self.read(socket, till: nil, gone: nil)
          length = bytes(socket, 8, till, gone)&.unpack1("Q>") or return
          text = bytes(socket, length, till, gone) or return
          Marshal.load(text) # from our own program
        end

        def self.write(socket, value)
          text = Marshal.dump(value)
          socket.write([text.bytesize].pack("Q>"), text)
        end

        # How often it is looked whether whoever asked is still there, seconds.
        LOOK = 0.25

        def self.bytes(socket, count, till, gone)
          said = String.new(capacity: [count, 1 << 20].min, encoding: Encoding::BINARY)
          while said.bytesize < count
            wait(socket, till, gone)
            piece = socket.read_nonblock([count - said.bytesize, 1 << 20].min, exception: false)
            return if piece.nil?
            said << piece if piece.is_a?(String)
          end
          said
        rescue Errno::ECONNRESET
          nil
        end

        def self.wait(socket, till, gone)
          return socket.wait_readable unless till
          until socket.wait_readable([till - Process.clock_gettime(Process::CLOCK_MONOTONIC), LOOK].min.clamp(0, LOOK))
            raise Gone, "Whoever asked has left." if gone&.call
            raise Timeout::Error if Process.clock_gettime(Process::CLOCK_MONOTONIC) > till
          end
        end

        private_class_method :bytes, :wait
      end
    end
  end
end
