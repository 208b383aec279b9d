# frozen_string_literal: true

require_relative "puma_buffer_patch"
require_relative "aside"
require_relative "request_gate"
require_relative "incoming_bytes"
require_relative "plain_errors"
require_relative "memory"

module Fobrel
  # The whole application for Rack: what guards every request, then the resources, then the
  # front end.
  module App
    HOSTS = ["localhost", "127.0.0.1", "[::1]", *ENV.fetch("FOBREL_HOSTS", "").split(",")].freeze
    DIST = File.join(ROOT, "web/dist")

    POLICY = "default-src 'self'; img-src 'self' data: blob:; style-src 'self'; object-src 'none'; " \
      "base-uri 'none'; frame-ancestors 'none'; form-action 'self'"

    # What no page of ours asks a browser for, and who may hold our window or our pictures: nobody else's page.
    PERMISSIONS = %w[camera microphone geolocation payment usb serial bluetooth midi hid display-capture].map {
      "#{_1}=()"
    }.join(", ").freeze
    OURS = {
      "permissions-policy" => PERMISSIONS,
      "cross-origin-opener-policy" => "same-origin",
      "cross-origin-resource-policy" => "same-origin"
    }.freeze

    # The cookie that holds the key to a session; see Models::SignIn.
    SESSION = {
      key: "fobrel.session",
      serialize_json: true,
      same_site: :strict,
      httponly: true,
      expire_after: 30 * 86_400
    }.freeze

    # Refuses more sign-ins than a person types, from one address to one account (in Api::Session): whoever knows a
    # login must not be able to lock its owner out. From one address to all accounts together, five times as many.
    SIGN_IN_LIMIT = Integer(ENV.fetch("SIGN_IN_LIMIT", 20))
    SIGN_IN_PERIOD = 60
    Rack::Attack.cache.store = Models::Try
    Rack::Attack.throttle("sign-in by address", limit: 5 * SIGN_IN_LIMIT, period: SIGN_IN_PERIOD) { |r|
      App.address(r.env) if r.path == "/api/session" && r.post?
    }
    Rack::Attack.throttled_responder = lambda do |_|
      [429, {"content-type" => "application/json"}, ['{"error":"Too many tries. Wait a minute, then sign in again."}']]
    end

    # Proxies whose word for an address is taken; without any, only the connection itself counts.
    PROXIES = ENV.fetch("FOBREL_PROXIES", "").split(",").map(&:strip).freeze

    # @return [String] the address a request comes from
    def self.address(env)
      told = [*env["HTTP_X_FORWARDED_FOR"].to_s.split(",").map(&:strip), env["REMOTE_ADDR"].to_s]
      told.reverse.find { !PROXIES.include?(_1) } || told.first
    end

    # The front end's own files, packed as the browser takes them; the address of a view is the page itself, which
    # finds it. What is neither is not there: a person is shown the page all the same, which says so.
    PAGE = lambda do |env|
      path = Rack::Utils.clean_path_info(env["PATH_INFO"])
      file = File.file?(File.join(DIST, path)) ? path : "/index.html"
      here = file == path || VIEWS.call(path)
      next [404, {"content-type" => "text/plain"}, ["There is no such file.\n"]] if !here && path.match?(/\.\w+\z/)
      packed, ending = PACKED.find { |name, end_of_name| packed?(env, name, file + end_of_name) }
      status, headers, body = FILES.call(env.merge("PATH_INFO" => "#{file}#{ending}"))
      if packed
        headers = headers.merge(
          "content-encoding" => packed,
          "content-type" => Rack::Mime.mime_type(File.extname(file))
        )
      end
      status = 404 if status == 200 && !here
      kept = file.start_with?("/assets/") ? "public, max-age=31536000, immutable" : "no-cache"
      [status, headers.merge("cache-control" => kept, "vary" => "Accept-Encoding"), body]
    end

    # Whether an address is that of a view (web/vite.config.ts writes them down).
    VIEWS = lambda do |path|
      @views ||= Regexp.union(JSON.parse(File.read(File.join(DIST, "views.json"))).map { /\A#{_1}\z/ })
      @views.match?(path)
    rescue SystemCallError
      true # it was never built
    end

    # How the front end is packed beside itself (web/vite.config.ts), the smallest first.
    PACKED = {"br" => ".br", "gzip" => ".gz"}.freeze
    FILES = Rack::Files.new(DIST)

    # @return [Boolean] whether a browser takes this packing and there is such a file
    def self.packed?(env, name, file)
      taken = Rack::Utils.q_values(env["HTTP_ACCEPT_ENCODING"]).any? { |one, quality| one == name && quality.positive? }
      taken && File.file?(File.join(DIST, file))
    end

    # What the server writes itself is packed on its way, unless it is short or packed already.
    UNPACKED = {include: %w[application/json text/csv text/plain image/svg+xml], sync: false}.freeze
    SHORT = 1000

    # @param secret [String] at least 64 characters; signs and encrypts the session cookie
    # @return [#call]
    def self.build(secret:)
      api = with_session(Api::Application.new, secret)
      Rack::Builder.new do
        use SecurityHeaders
        use Rack::NullLogger # what matters is written down by Watching::Watch
        use Watching::Watch
        use KnownHosts, permitted_hosts: HOSTS
        use PlainPath
        use NoForms
        use Rack::Deflater, **UNPACKED, if: ->(_, _, _, body) { App.long?(body) }
        use Rack::ConditionalGet
        # A page that asks the same again is told that nothing changed.
        use Rack::ETag, "no-store", "private, no-cache"
        use Lease
        use Limit
        use Rooms
        use Rack::Attack
        use OverHttps
        run ->(env) { (env["PATH_INFO"].start_with?("/api/") ? api : PAGE).call(env) }
      end.to_app
    end

    # Only what is asked of the API has a session: a file of the page is the same for everybody.
    def self.with_session(api, secret)
      Rack::Builder.new do
        use Rack::Session::Cookie, secrets: [secret], **SESSION
        use KeptSession
        use SamePage, allow_if: ->(env) { env["HTTP_AUTHORIZATION"].to_s.start_with?(Api::Asking::BEARER) }
        run api
      end.to_app
    end
    private_class_method :with_session

    # Writes the session's cookie only where somebody signs in or out, or a page asks for its token: no other answer may
    # carry it, and one that was under way while somebody signed out must not bring their session back.
    class KeptSession
      WRITES = {"/api/session" => %w[GET POST DELETE], "/api/begin" => %w[POST]}.freeze
      INVITATION = %r{\A/api/invitations/[^/]+\z}
      private_constant :WRITES, :INVITATION

      def initialize(app)
        @app = app
      end

      def call(env)
        options = env["rack.session.options"]
        options[:skip] = true unless writes?(env["REQUEST_METHOD"], env["PATH_INFO"])
        # Over HTTPS the cookie is for HTTPS only.
        options[:secure] = true if Rack::Request.new(env).ssl?
        @app.call(env).tap { |status, _, _| options[:skip] = true if status >= 400 }
      end

      private

      def writes?(verb, path) = WRITES.fetch(path, []).include?(verb) || (verb == "POST" && path.match?(INVITATION))
    end

    # @return [Boolean] whether an answer is worth packing; one that comes in pieces is
    def self.long?(body) = !body.respond_to?(:to_ary) || body.to_ary.sum(&:bytesize) > SHORT

    # Answers under the names that it is known by only.
    class KnownHosts < Rack::Protection::HostAuthorization
      def default_reaction(_env)
        PlainErrors.answer(403, "Fobrel does not answer under this name. Nothing was changed.", nil)
      end
    end

    # Decodes a path once, before anything compares it; what is still written in code after that was
    # written so to be taken for something else.
    class PlainPath
      def initialize(app)
        @app = app
      end

      def call(env)
        path = env["PATH_INFO"]
        return @app.call(env) unless path.include?("%")
        plain = Rack::Utils.unescape_path(path).force_encoding(Encoding::UTF_8)
        return odd unless plain.valid_encoding? && !plain.match?(/[%\0]/)
        @app.call(env.merge("PATH_INFO" => plain))
      end

      private

      def odd
        [
          400,
          {"content-type" => "application/json"},
          ['{"error":"This address is not written as ours are. Nothing was done."}']
        ]
      end
    end

    # Nothing here takes a form: a body that says it is one, or says nothing, is what it is, and nobody looks for fields
    # in it before the route has read it.
    class NoForms
      FORMS = %r{\A\s*(\z|application/x-www-form-urlencoded|multipart/)}i
      private_constant :FORMS

      def initialize(app)
        @app = app
      end

      def call(env)
        form = env["CONTENT_TYPE"].to_s.match?(FORMS)
        @app.call(form ? env.merge("CONTENT_TYPE" => "application/octet-stream") : env)
      end
    end

    # Ends a request that computes for longer than anybody waits, or for nobody; see Core::Clock and
    # Core::Apart.
    PAINT_SECONDS = Integer(ENV.fetch("PAINT_SECONDS", 20))
    class Limit
      def initialize(app)
        @app = app
      end

      def call(env)
        Models::Pulse.beat("web")
        turn = Core::Apart::Turn.new(rank: :soon, gone: env["puma.socket"])
        Core::Apart.for(turn) { Core::Clock.within(PAINT_SECONDS) { @app.call(env) } }
      end
    end

    # Gives back the room that a request took (see Api::Asking), however it ends.
    class Rooms
      def initialize(app)
        @app = app
      end

      def call(env)
        @app.call(env)
      ensure
        Memory.give_back if env["fobrel.room"]&.any? { |kind, *| kind == :large }
        env["fobrel.room"]&.each { Room.here.leave(_1) }
      end
    end

    # Over HTTPS the browser comes by no other way again.
    class OverHttps
      YEAR = 31_536_000

      def initialize(app)
        @app = app
      end

      def call(env)
        return @app.call(env) unless Rack::Request.new(env).ssl?
        status, headers, body = @app.call(env)
        [status, headers.merge("strict-transport-security" => "max-age=#{YEAR}"), body]
      end
    end

    # Gives the database's connection back after every request: it is looked at before it serves the next one, so
    # that nobody is told of a database that was away and is back.
    class Lease
      def initialize(app)
        @app = app
      end

      def call(env)
        pool = ActiveRecord::Base.connection_pool
        held = pool.active_connection?
        @app.call(env)
      ensure
        pool.release_connection unless held
      end
    end

    # The headers every answer carries.
    class SecurityHeaders
      def initialize(app)
        @app = app
      end

      def call(env)
        status, headers, body = @app.call(env)
        headers["content-security-policy"] ||= POLICY
        headers["x-content-type-options"] = "nosniff"
        headers["referrer-policy"] = "same-origin"
        headers.merge!(OURS)
        # What was asked for may be kept and asked about again; what a deed answered, a token perhaps, never.
        headers["cache-control"] = "no-store" unless %w[
          GET
          HEAD
        ].include?(env["REQUEST_METHOD"]) && headers["cache-control"]
        [status, headers, body]
      end
    end

    RENEW = "x-renew"

    # Lets only requests from our own page change anything.
    class SamePage < Rack::Protection::AuthenticityToken
      # A page whose person signed out elsewhere asks them to sign in again; one that only has an
      # old token fetches the new one and goes on (RENEW tells it so).
      def default_reaction(env)
        return refuse(401, "Sign in first.") unless session(env)["sign_in"] || env["PATH_INFO"] == "/api/session"
        refuse(403, "This page is out of date. Nothing was changed. Reload it and try again.", RENEW => "token")
      end

      private

      def refuse(status, message, more = {})
        [status, {"content-type" => "application/json", **more}, [JSON.generate({error: message})]]
      end
    end
  end
end
