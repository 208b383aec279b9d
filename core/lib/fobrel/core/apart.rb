# frozen_string_literal: true

module Fobrel
  module Core
    # Runs what comes from outside in a process of its own, with limits of time and memory that the
    # system keeps (setrlimit, POSIX.1-2017). What it gives back must be plain data. It must not use
    # libvips or a database: a copied process has neither's threads.
    #
    #   Apart.run(seconds: 5, memory: 256 * 1024 * 1024) { recipe_text }
    module Apart
      # Raised in one sentence when it was ended.
      class Ended < Problem; end

      # @param seconds [Integer] of processor time; twice as many by the clock
      # @param memory [Integer] bytes beyond what this process has
      # @return what the block gives
      # @raise [Ended]
      # @raise [Problem] what the block raised, of its own class
      def self.run(seconds:, memory:, &block)
        reader, writer = IO.pipe(binmode: true)
        child = fork { inside(reader, writer, seconds, memory, &block) }
        writer.close
        said = read(reader, seconds * 2)
        Process.kill(:KILL, child) unless said
        status = Process.wait2(child).last
        answer(said, status, seconds)
      ensure
        [reader, writer].each { _1&.close unless _1&.closed? }
      end

      class << self
        private

        def inside(reader, writer, seconds, memory)
          reader.close
          held = Integer(File.read("/proc/self/statm").split.first) * 4096
          Process.setrlimit(:AS, held + memory)
          Process.setrlimit(:CPU, seconds, seconds + 1)
          said = begin
            [:done, yield]
          rescue Problem => e
            [:problem, e.class.name, e.message]
          rescue NoMemoryError
            [:memory]
          end
          writer.write(Marshal.dump(said))
          writer.close
        rescue NoMemoryError
          nil # there was not even room to say so
        ensure
          exit!(0)
        end

        def read(reader, seconds)
          till = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
          said = +""
          while (left = till - Process.clock_gettime(Process::CLOCK_MONOTONIC)).positive? && reader.wait_readable(left)
            piece = reader.read_nonblock(1 << 20, exception: false)
            return said if piece.nil?
            said << piece if piece.is_a?(String)
          end
          nil
        end

        def answer(said, status, seconds)
          kind, *rest = Marshal.load(said) unless said.nil? || said.empty? # from our own child
          case kind
          when :done then rest.first
          when :problem then raise Object.const_get(rest.first), rest.last
          else
            late = said.nil? || status.termsig == Signal.list["XCPU"]
            raise Ended, late ? "It took longer than #{seconds} seconds and was ended." : "It wanted more memory than it may have and was ended."
          end
        end
      end
    end
  end
end
