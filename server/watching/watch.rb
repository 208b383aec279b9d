# frozen_string_literal: true

module Fobrel
  module Watching
    # Stands before everything: gives each request a number, writes it down and counts it, and answers those who watch
    # over the server.
    class Watch
      NUMBER = "x-request-id"
      # A number that somebody before us gave.
      GIVEN = /\A[\w-]{8,64}\z/
      JSON_TYPE = {"content-type" => "application/json", "cache-control" => "no-store"}.freeze
      private_constant :GIVEN, :JSON_TYPE

      def initialize(app)
        @app = app
      end

      def call(env)
        probe = probe(env) and return probe
        number = env["fobrel.number"] = env["HTTP_X_REQUEST_ID"].to_s[GIVEN] || SecureRandom.hex(8)
        began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        status, headers, body = whatever_happens(env) { @app.call(env) }
        told(env, number, status, Process.clock_gettime(Process::CLOCK_MONOTONIC) - began)
        [status, headers.merge(NUMBER => number), body]
      end

      private

      # What breaks between here and a route is answered as plainly as what a route does.
      def whatever_happens(env)
        yield
      rescue => e
        PlainErrors.call(e, env)
      end

      def probe(env)
        return unless %w[GET HEAD].include?(env["REQUEST_METHOD"])
        case env["PATH_INFO"]
        when "/healthz" then [200, JSON_TYPE.dup, ['{"status":"ok"}']]
        when "/readyz" then ready
        when "/metrics" then metrics(env)
        end
      end

      def ready
        checks = Health.checks
        well = checks.values.all?("ok")
        more = well ? {} : {"retry-after" => "5"}
        [well ? 200 : 503, JSON_TYPE.merge(more), [JSON.generate({status: well ? "ok" : "not ready", checks:})]]
      ensure
        ActiveRecord::Base.connection_pool.release_connection
      end

      def metrics(env)
        return unless Metrics.may?(env)
        [200, {"content-type" => Metrics::TYPE, "cache-control" => "no-store"}, [Metrics.text]]
      rescue ActiveRecord::ActiveRecordError
        [503, JSON_TYPE.merge("retry-after" => "5"), ['{"error":"The database does not answer."}']]
      ensure
        ActiveRecord::Base.connection_pool.release_connection
      end

      def told(env, number, status, seconds)
        route = route(env)
        Metrics.asked(env["REQUEST_METHOD"], route, status, seconds)
        Log.line(
          "request",
          id: number,
          verb: env["REQUEST_METHOD"],
          route:,
          status:,
          ms: (seconds * 1e3).round(1),
          person: env["fobrel.person"],
          address: App.address(env)
        )
      end

      # As the contract writes it, without what it names: what was asked for may be a key.
      def route(env)
        path = env["PATH_INFO"]
        return "page" unless path.start_with?("/api/")
        Contract.operation(env["REQUEST_METHOD"], path)&.path || "none"
      end
    end
  end
end
