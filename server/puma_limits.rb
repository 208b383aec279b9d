# frozen_string_literal: true

require "puma"
require "puma/client"
require "puma/log_writer"

module Fobrel
  # What Puma reads before the application sees a request is held to our limits too: the gate is asked once a request's
  # head is there and before its body is read (Puma::Client#setup_body), what arrives is counted, and a sender that
  # takes too long is ended. Puma has one limit for all routes and starts its clock anew with each byte.
  module PumaLimits
    # Seconds for a request's head, and for a body beside the time that it takes at the slowest rate.
    HEAD_SECONDS = Integer(ENV.fetch("HEAD_SECONDS", 20))
    BODY_SECONDS = Integer(ENV.fetch("BODY_SECONDS", 30))
    # Bytes a second; who is slower is ended.
    SLOWEST = 64 * 1024
    # Puma keeps smaller bodies in memory.
    SPOOLED = Puma::Const::MAX_BODY

    class << self
      # @return [RequestGate, nil] nil lets everything pass
      attr_accessor :gate
      # @return [IncomingBytes, nil]
      attr_accessor :incoming
    end

    # Raised where Puma expects a malformed request; answered by PlainErrors.
    class RefusedByGate < Puma::HttpParserError
      attr_reader :refused

      def initialize(refused)
        @refused = refused
        super(refused.message)
      end
    end

    # One connection.
    module Client
      def setup_body
        @deadline = nil
        self.http_content_length_limit = admit if PumaLimits.gate
        super
      end

      # The time that is left never grows beyond the deadline of this request.
      def set_timeout(seconds)
        super
        @deadline ||= @timeout_at - seconds + HEAD_SECONDS if @buffer && !in_data_phase
        @timeout_at = [@timeout_at, @deadline].min if @deadline
      end

      def reset
        give_back
        @deadline = nil
        super
      end

      def close
        give_back
        @refused ? Drain.call(@io) { super() } : super
      end

      private

      def admit
        limit = PumaLimits.gate.limit(@env)
        chunked = @env.key?("HTTP_TRANSFER_ENCODING")
        # Nobody says how long it will be: enough for any JSON, no file.
        limit = [limit, Contract::MAX_JSON].min if chunked
        expected = chunked ? limit : @env["CONTENT_LENGTH"].to_i
        hold(expected) if expected > SPOOLED || chunked
        @deadline = Process.clock_gettime(Process::CLOCK_MONOTONIC) + BODY_SECONDS + (expected / SLOWEST)
        limit
      rescue RequestGate::Refused => e
        refuse(e)
      end

      def hold(bytes)
        return unless PumaLimits.incoming
        PumaLimits.incoming.reserve(bytes)
        @held = bytes
      end

      def give_back
        held, @held = @held, nil
        PumaLimits.incoming.release(held) if held
      end

      # As Puma does it where its own limit is exceeded.
      def refuse(refused)
        @refused = true
        @read_header = false
        @buffer = nil
        @body = Puma::Client::EmptyBody
        @error_status_code = refused.status
        @env["HTTP_CONNECTION"] = "close"
        raise RefusedByGate, refused
      end
    end

    # Puma words some answers itself; all of them are ours.
    module Server
      private

      def response_to_error(client, requests, error, status)
        prepare_response(*lowlevel_error(error, client.env, status), requests, client)
      end
    end

    # A refused sender is still sending. If its connection were closed at once, its system would throw our answer away
    # unread (RFC 9112, section 9.6): what it sends is read for a moment and dropped.
    module Drain
      SECONDS = 2
      BYTES = 16 * 1024 * 1024
      MOST = 32
      @lock = Mutex.new
      @running = 0

      class << self
        # @param io [IO]
        # @yield closes it
        def call(io)
          return yield unless enter
          Thread.new do
            drop(io)
          rescue SystemCallError, IOError
            nil # it has gone
          ensure
            yield
            @lock.synchronize { @running -= 1 }
          end
        end

        private

        def enter = @lock.synchronize { (@running < MOST).tap { |free| @running += 1 if free } }

        def drop(io)
          io.close_write
          ends = Process.clock_gettime(Process::CLOCK_MONOTONIC) + SECONDS
          left = BYTES
          while left.positive? && (wait = ends - Process.clock_gettime(Process::CLOCK_MONOTONIC)).positive?
            io.wait_readable(wait) or break
            left -= begin
              io.read_nonblock(65_536).bytesize
            rescue
              break
            end
          end
        end
      end
    end

    Puma::Client.prepend(Client)
    Puma::Server.prepend(Server)
  end
end
