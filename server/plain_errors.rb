# frozen_string_literal: true

require_relative "puma_limits"

module Fobrel
  # The answer to what never reached a route, or broke outside of one: a sentence, our headers and a number. What
  # exactly happened stands in the log alone, without what was sent.
  module PlainErrors
    SENTENCES = {
      400 => "This request is not written as HTTP asks. Nothing was changed.",
      408 => "This took too long to arrive. Nothing was changed. Try again.",
      413 => "This is larger than can be sent here. Nothing was kept.",
      501 => "Fobrel does not know this kind of request. Nothing was changed.",
      503 => "Fobrel is stopping. Nothing was changed. Try again in a moment.",
      507 => "The disk is full. Nothing was kept. Tell whoever looks after Fobrel."
    }.freeze
    BROKEN = "Something went wrong on our side. What was saved before is still there. If it happens again, tell " \
      "whoever looks after Fobrel the number %s."
    private_constant :SENTENCES, :BROKEN

    # A page waits and asks again where it is told so.
    WAIT = {"retry-after" => "2"}.freeze
    private_constant :WAIT

    class << self
      # Puma's `lowlevel_error_handler`.
      #
      # @param error [Exception]
      # @param env [Hash, nil]
      # @param status [Integer] that Puma would answer with
      # @return [Array] of Rack
      def call(error, env = nil, status = 500)
        number = (env || {})["fobrel.number"] || SecureRandom.hex(8)
        refused = error.refused if error.is_a?(PumaLimits::RefusedByGate)
        status, sentence = refused ? [refused.status, refused.message] : status_of(error, status)
        told(error, status, number)
        answer(status, sentence || format(BROKEN, number), number)
      end

      # @param number [String, nil] of the request, where nobody else gives it
      # @return [Array] of Rack
      def answer(status, sentence, number)
        headers = {
          "content-type" => "application/json",
          "cache-control" => "no-store",
          "content-security-policy" => App::POLICY,
          "x-content-type-options" => "nosniff",
          "referrer-policy" => "same-origin",
          **(number ? {Watching::Watch::NUMBER => number} : {}),
          **App::OURS,
          **((status == 503) ? WAIT : {})
        }
        [status, headers, [JSON.generate({error: sentence})]]
      end

      private

      def status_of(error, status)
        return [507, SENTENCES[507]] if error.is_a?(Errno::ENOSPC) || error.cause.is_a?(Errno::ENOSPC)
        if error.is_a?(EncodingError) || error.is_a?(Rack::QueryParser::InvalidParameterError)
          return [
            400,
            SENTENCES[400]
          ]
        end
        [status, SENTENCES[status]]
      end

      # What a parser says holds what was sent, cookies too: its class is enough.
      def told(error, status, number)
        if status < 500 || status == 501
          return Watching::Log.line(
            "refused",
            id: number,
            status:,
            said: error.class.name
          )
        end
        Watching::Log.trouble("outside of a route", error, id: number)
      end
    end

    # Says nothing itself: what Puma would write has the request in it.
    class LogWriter < Puma::LogWriter
      def parse_error(*) = nil

      def connection_error(*) = nil

      def unknown_error(error, _request = nil, text = "")
        Watching::Log.trouble(text.to_s, error)
      end
    end
  end
end
