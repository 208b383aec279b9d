# frozen_string_literal: true

module Fobrel
  # Decides, from a request's head alone, how large its body may be: before any of it is read. Nobody who is not signed
  # in sends more than a few kilobytes; everybody else sends what the contract allows on that route (`x-max-bytes`), if
  # they may use the route at all.
  #
  #   gate.limit("REQUEST_METHOD" => "POST", "REQUEST_PATH" => "/api/session", "CONTENT_LENGTH" => "99999999")
  #   # raises RequestGate::Refused, 413
  class RequestGate
    # Raised instead of reading a body.
    class Refused < StandardError
      attr_reader :status

      def initialize(status, sentence)
        @status = status
        super(sentence)
      end
    end

    # Bytes that anybody may send, signed in or not.
    ANYBODY = 8 * 1024

    # @param secret [String] that the session's cookie is encrypted with
    def initialize(secret:)
      @encryptor = Rack::Session::Encryptor.new(
        secret,
        App::SESSION.slice(:serialize_json).merge(purpose: App::SESSION[:key])
      )
    end

    # @param env [Hash] as the HTTP parser left it: before the path is decoded
    # @return [Integer] bytes
    # @raise [Refused] where the body is known to be larger, or the person may not send one
    def limit(env)
      return ANYBODY unless large?(env)
      operation = Contract.operation(env["REQUEST_METHOD"], path(env))
      limit = operation ? allowed(operation, env) : ANYBODY
      announced = env["CONTENT_LENGTH"].to_i
      raise Refused.new(413, too_large(limit)) if announced > limit
      limit
    rescue ActiveRecord::ConnectionNotEstablished, ActiveRecord::StatementInvalid
      raise Refused.new(503, "The database is away. Nothing was kept. Try again in a moment.")
    ensure
      ActiveRecord::Base.connection_pool.release_connection
    end

    private

    # A body of unknown length counts as a large one.
    def large?(env)
      env.key?("HTTP_TRANSFER_ENCODING") || env["CONTENT_LENGTH"].to_s.size > 4 && env["CONTENT_LENGTH"].to_i > ANYBODY
    end

    def path(env) = Rack::Utils.unescape_path(env["REQUEST_PATH"].to_s).scrub

    def allowed(operation, env)
      return ANYBODY if operation.may == :anyone
      token = bearer(env)
      person = token ? token.person : session_person(env)
      raise Refused.new(401, "Sign in first.") unless person
      return operation.max_bytes if may?(operation, person, token, path(env))
      raise Refused.new(403, "You don't have access to this. Nothing was kept.")
    end

    def may?(operation, person, token, path)
      library_id = Contract.library_id(path) unless operation.open?
      return false if token && !token.reaches?(operation, path, library_id)
      return person.owner if operation.may == :studio
      return true if operation.open?
      member = library_id && person.memberships.includes(:library).find_by(library_id:)
      member ? member.may?(operation.may) : false
    end

    def bearer(env)
      shown = env["HTTP_AUTHORIZATION"].to_s[Api::Asking::TOKEN, 1]
      shown && (Models::AccessToken.of(shown) || raise(Refused.new(401, "This token is not known here, or has ended.")))
    end

    def session_person(env)
      cookie = Rack::Utils.parse_cookies_header(env["HTTP_COOKIE"].to_s)[App::SESSION[:key]]
      Models::SignIn.of(@encryptor.decrypt(cookie)["sign_in"])&.person if cookie
    rescue Rack::Session::Encryptor::Error, ArgumentError
      nil
    end

    def too_large(limit)
      size = (limit < 1024 * 1024) ? "#{limit / 1024} KB" : "#{limit / 1024 / 1024} MB"
      "This is larger than #{size}, the most that can be sent here. Nothing was kept."
    end
  end
end
