# frozen_string_literal: true

module Fobrel
  module Core
    module Apart
      # The process that others are split off from: it has everything loaded and does nothing itself,
      # so that a new one is there within milliseconds and holds nothing that is not its own. It ends
      # with the program that began it.
      class Nursery
        # Few pools of memory, each of which would keep what it once had; and large strings and planes are
        # collected soon: an export of 1,000 pictures then stays at 300 MB, not 540.
        ENVIRONMENT = {
          "MALLOC_ARENA_MAX" => "2",
          "RUBY_GC_MALLOC_LIMIT" => "8388608",
          "RUBY_GC_MALLOC_LIMIT_MAX" => "16777216",
          "RUBY_GC_OLDMALLOC_LIMIT" => "16777216",
          "RUBY_GC_OLDMALLOC_LIMIT_MAX" => "33554432"
        }.freeze
        private_constant :ENVIRONMENT

        # A program's side of it.
        class Line
          # @param program [String] what it loads
          def initialize(program)
            @socket, far = UNIXSocket.pair(:SEQPACKET)
            # It leaves its parent at once: a web server waits for all of its children at its end.
            Process.wait(
              Process.spawn(
                ENVIRONMENT,
                RbConfig.ruby,
                *$LOAD_PATH.flat_map {
                  ["-I", _1]
                },
                "-e",
                "require 'fobrel/core'; require ARGV.first; Fobrel::Core::Apart::Nursery.new(3).serve",
                program,
                3 => far,
                :in => File::NULL
              )
            )
            far.close
          end

          # @param limits [Hash] as Place takes them
          # @return [UNIXSocket] to the new process
          def split(limits)
            near, far = UNIXSocket.pair
            @socket.sendmsg(JSON.generate(limits), 0, nil, Socket::AncillaryData.unix_rights(far))
            near
          ensure
            far&.close
          end

          # Ends one that .split began.
          def kill(pid) = @socket.send(JSON.generate(pid), 0)

          def close = @socket.close
        end

        def initialize(descriptor)
          exit!(0) if fork
          @socket = UNIXSocket.for_fd(descriptor)
          @children = {}
          Process.setsid
          # Large pictures stay in memory, which has a limit, and are never laid into a file.
          ENV["VIPS_DISC_THRESHOLD"] = "4g"
          LOADER.eager_load
          GC.compact if GC.respond_to?(:compact)
        end

        def serve
          loop do
            said, _, _, *rights = @socket.recvmsg(scm_rights: true)
            break if said.nil? || said.empty?
            heard(JSON.parse(said), rights.first&.unix_rights&.first)
          end
        rescue Interrupt, SystemCallError
          nil
        ensure
          @children.each_key { end_child(_1) }
          exit!(0)
        end

        private

        def heard(word, socket)
          return end_child(word) if word.is_a?(Integer)
          pid = fork { work(socket, word.transform_keys(&:to_sym)) }
          @children[pid] = Process.detach(pid)
          @children.delete_if { |_, waiting| !waiting.alive? }
          socket.close
        end

        # Only what is still a child of ours has this number.
        def end_child(pid)
          @children[pid]&.alive? && Process.kill(:KILL, pid)
        rescue Errno::ESRCH
          nil # it has just ended by itself
        end

        def work(socket, limits)
          @socket.close
          Worker.new(socket, **limits).serve
        ensure
          exit!(0)
        end
      end
    end
  end
end
