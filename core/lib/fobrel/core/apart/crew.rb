# frozen_string_literal: true

module Fobrel
  module Core
    module Apart
      # The processes that work for this one, and who comes next.
      #
      # One person has at most all places but two at a time, one studio all but one, so that there is
      # always a place for somebody else. What somebody follows with the hand goes first; then who has
      # fewest under way; then who asked first.
      class Crew
        # Far behind those who answer people.
        NICE = Integer(ENV.fetch("PAINTERS_NICE", 15))
        # No more than libvips' own compiler (liborc) lays down for a moment.
        WRITES = 1 << 20

        # Seconds after which a process that nobody asked anything of is ended, with what it remembers.
        REST = 300
        # One process, and since when nobody asks anything of it.
        Place = Struct.new(:socket, :pid, :who, :since)

        # @return [Integer] of the program whose crew this is
        attr_reader :pid

        # @param size [Integer] how many at once
        # @param waiting [Integer] how many may wait, and a third of it for one person
        # @param nice [Integer] added to the processes' niceness
        # @param program [String] what they load
        # @param writes [Integer] bytes that a file of theirs may grow to
        # @param name [String] crews of one name share what a person may have; see Share
        # @param rest [Numeric] seconds; see REST
        def initialize(
          size: Integer(ENV.fetch("PAINTERS", 3)), waiting: 36, nice: NICE, program: "fobrel/core",
          writes: WRITES, name: "painting", rest: REST
        )
          @pid = Process.pid
          @size = size
          @most_waiting = waiting
          @limits = {files: FILES, writes:, nice:}
          @program = program
          @name = name
          @rest = rest
          @lock = Mutex.new
          @moved = ConditionVariable.new
          @free = []
          @running = []
          @waiting = []
        end

        # @return [Hash] how many are at work and how many wait, by rank
        def lengths = @lock.synchronize { {running: @running.map(&:rank).tally, waiting: @waiting.map(&:rank).tally} }

        # @param turn [Turn]
        # @param asked [Array] a module's name, its method, arguments and named arguments
        # @param seconds [Numeric] of processor time
        # @param within [Numeric] seconds of wall time to wait for a place, and again for the answer
        # @param memory [Integer] bytes; see Apart.call
        # @param fresh [Boolean] see Apart.call
        # @return what the method gives
        # @raise [Ended, Busy, Gone, Problem]
        def call(turn, asked, seconds:, memory:, fresh:, within: seconds)
          till = Process.clock_gettime(Process::CLOCK_MONOTONIC) + within
          # Each waits for itself: one turn may be asked for by several at once.
          mine = turn.dup
          begin_turn(mine, till)
          begin
            shared(mine, till) {
              answer(at_place(mine, fresh:, memory:) { |place| ask(place, asked, mine, seconds, within) })
            }
          ensure
            end_turn(mine)
          end
        end

        private

        # Batches do not stand in the way of what the same person follows with the hand.
        def shared(mine, till, &)
          return yield unless mine.who && Share.folder
          Share.held(
            "#{@name}-#{(mine.rank == :later) ? "later" : "now"}-#{mine.who}",
            wait: -> {
              left?(mine, till)
            },
            &
          )
        end

        def begin_turn(mine, till)
          @lock.synchronize do
            return @running << mine if may?(mine) && @waiting.none? { may?(_1) }
            line_up(mine)
            begin
              @moved.wait(@lock, Message::LOOK) until next_one?(mine) || left?(mine, till)
            ensure
              @waiting.delete_if { _1.equal?(mine) }
              @moved.broadcast
            end
            @running << mine
          end
        end

        def line_up(mine)
          many = @waiting.count { mine.who && _1.who == mine.who }
          if @waiting.size >= @most_waiting || many >= @most_waiting / 3
            raise Busy,
              "#{(many >= @most_waiting / 3) ? "So much that you asked for is" : "So many others are"} being painted " \
                "already that this was not begun. Nothing was changed. Try again in a moment."
          end
          @waiting << mine
        end

        def left?(mine, till)
          raise Gone, "Whoever asked has left." if gone?(mine)
          if Process.clock_gettime(Process::CLOCK_MONOTONIC) > till
            raise Busy,
              "Others were before you for so long that this was not begun. Nothing was changed. Try again in a moment."
          end
        end

        def next_one?(mine)
          order = @waiting.select {
            may?(_1)
          }.each_with_index.min_by { |turn, index| [RANKS.index(turn.rank), count(:who, turn), index] }
          order&.first.equal?(mine)
        end

        def may?(turn)
          @running.size < @size && (turn.who.nil? || count(
            :who,
            turn
          ) < [@size - 2, 1].max) && (turn.where.nil? || count(:where, turn) < [@size - 1, 1].max)
        end

        def count(field, turn) = @running.count { turn[field] && _1[field] == turn[field] }

        def end_turn(mine)
          @lock.synchronize do
            @running.delete_if { _1.equal?(mine) }
            @moved.broadcast
          end
        end

        def free_place(mine)
          @lock.synchronize { @free.delete(@free.find { _1.who == mine.who } || @free.first) }
        end

        # A person comes back to the process that painted for them last: it remembers their tips.
        def at_place(mine, fresh:, memory:)
          place = (free_place(mine) unless fresh) || split(memory)
          place.who = mine.who
          said = yield place
        ensure
          (said && !fresh && said.first != :memory) ? free(place) : leave(place)
        end

        def free(place)
          @lock.synchronize do
            place.since = now
            @free.unshift(place)
            @resting ||= Thread.new { loop { sleep(@rest / 2.0).then { end_idle } } }
          end
        end

        # What a studio does not need at night is given back.
        def end_idle
          idle = @lock.synchronize do
            old, @free = @free.partition { |place| now - place.since > @rest }
            old
          end
          idle.each { |place| leave(place) }
        end

        def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

        def leave(place)
          return unless place
          @lock.synchronize { @line&.kill(place.pid) }
          place.socket.close
        rescue SystemCallError
          nil # the whole nursery has gone, and it with it
        end

        # The nursery is begun once; where it was ended from outside, another is begun.
        def split(memory)
          tries = 0
          begin
            socket = @lock.synchronize { (@line ||= Nursery::Line.new(@program)).split({memory:, **@limits}) }
            Place.new(
              socket,
              Message.read(
                socket,
                till: Process.clock_gettime(Process::CLOCK_MONOTONIC) + SECONDS
              ) || raise(Errno::EPIPE),
              nil
            )
          rescue SystemCallError
            @lock.synchronize { @line = @line&.close }
            retry if (tries += 1) < 3
            raise
          end
        end

        def ask(place, asked, mine, seconds, within)
          before = Process.clock_gettime(Process::CLOCK_MONOTONIC)
          Message.write(place.socket, [*asked, seconds, within])
          # It ends by itself, with its own sentence, a moment before.
          Message.read(place.socket, till: before + within + GRACE, gone: -> { gone?(mine) }) ||
            raise(
              Ended,
              (Process.clock_gettime(Process::CLOCK_MONOTONIC) - before >= seconds) ? late(seconds) : "It wanted " \
                "more memory than it may have, or it is damaged in a way that ends a program. It was ended."
            )
        rescue Timeout::Error
          raise Ended, late(within)
        rescue Errno::EPIPE, Errno::ECONNRESET
          raise Ended, "It was ended from outside."
        end

        GRACE = 1
        private_constant :GRACE

        def late(seconds) = "It took longer than #{[seconds.round, 1].max} seconds and was ended."

        def gone?(turn)
          turn.gone&.wait_readable(0) && turn.gone.recv_nonblock(1, Socket::MSG_PEEK, exception: false).then {
            _1.nil? || _1.empty?
          }
        rescue SystemCallError, IOError
          true
        end

        def answer(said)
          kind, *rest = said
          case kind
          when :done then rest.first
          when :problem then raise Object.const_get(rest.first).allocate.exception(rest.last)
          when :memory then raise Ended, "It wanted more memory than it may have and was ended."
          else raise "In a process apart: #{rest.first}\n#{Array(rest.last).join("\n")}"
          end
        end
      end
    end
  end
end
