# frozen_string_literal: true

module Fobrel
  module Api
    # Who asks, what they may do, and what they sent.
    module Asking
      # Tells a page what its person is in the library it asked about, at every answer.
      ROLE = "X-Role"
      # Bodies above are read by few at once: what they become in memory is many times as large.
      LARGE = 1024 * 1024
      # A program that shows a token is no page: no browser adds that header by itself.
      BEARER = "Bearer "
      TOKEN = /\A#{BEARER}(\S{1,200})\z/o

      # @return [Models::Person] who asks
      # @raise [Application::Halt] 401
      def person
        @person ||= (token? ? token_shown : sign_in)&.person&.tap { env["fobrel.person"] = _1.id } ||
          refuse(
            401,
            token? ? "This token is not known here, or has ended. Make a new one in Fobrel." : "Sign in first."
          )
      end

      # @return [Models::SignIn, nil] the session that the cookie has the key to
      def sign_in
        return if token?
        @sign_in ||= Models::SignIn.of(session["sign_in"])
      end

      # @return [Models::AccessToken, nil]
      def token_shown
        @token_shown ||= env["HTTP_AUTHORIZATION"].to_s[TOKEN, 1]&.then { |token|
          Models::AccessToken.of(token)
        }
      end

      # @return [Boolean] whether a program asks for a person; then the cookie counts for nothing
      def token? = env["HTTP_AUTHORIZATION"].to_s.start_with?(BEARER)

      # Where the person is a member, as far as the token that they show reaches.
      #
      # @return [ActiveRecord::Relation<Models::Membership>]
      def memberships
        only_library ? person.memberships.where(library_id: only_library) : person.memberships
      end

      # @return [Integer, nil] the only library that the token in use reaches
      def only_library = (token_shown&.library_id if token?)

      # @return [String] one of History::Via::ALL
      def via
        return "page" unless token?
        token_shown&.desk_id ? "desk" : "command line"
      end

      # @return [String] where a file that is asked for goes
      def goes_to = token? ? "the command line" : "this browser"

      # @return [Models::Library] that the address names
      def library = membership(params["library"]).library

      # A thing of a library of theirs; nothing else exists for anybody.
      #
      # @param relation [Class, ActiveRecord::Relation]
      # @raise [ActiveRecord::RecordNotFound]
      def of_library(relation, id: params["id"])
        record = relation.find(id)
        membership(record.library_id)
        record
      end

      # What the person is in a library. What they may do there is what the contract says of this route.
      #
      # @param deed [Symbol] where a route asks for more in some cases
      # @return [Models::Membership]
      # @raise [Application::Halt] 403
      # @raise [ActiveRecord::RecordNotFound] where they are none of its members
      def membership(library_id, deed = operation.may)
        @members ||= {}
        found = @members[library_id.to_i] ||= person.memberships.includes(:library).find_by!(library_id:)
        Core::Apart.turn.where = found.library_id
        headers ROLE => "#{found.library_id} #{found.role}"
        return found if found.may?(deed)
        refuse(403, "#{why_not(found, deed)} Nothing was changed.")
      end

      # @return [Hash] what was sent, in the shape that the contract gives it
      # @raise [Contract::Unlike, Application::Halt]
      def json
        @json ||= read_json.tap { |data| operation.check(data) }
      end

      # @return [Hash{Integer => String}, nil] the heading each preset stands under; JSON has texts for keys
      def sections_sent = json["sections"]&.transform_keys(&:to_i)

      # @param most [Integer] bytes, where it is less than the contract allows on this route
      # @return [String] the whole body
      def read_body(most = operation.max_bytes)
        take_room(:large) if request.content_length.to_i > LARGE && env["fobrel.room"]
        text = request.body&.read(most + 1).to_s
        refuse(413, too_large(most)) if text.bytesize > most
        text
      end

      def too_large(most) = "This is larger than #{most / 1024 / 1024} MB. Nothing was kept."

      # @return [String] what a file that is sent is called, in a sentence
      def picture_name = params.fetch("file", "The picture")[0, 120]

      # A preset sent by the page. Its pictures must be ones that a brush of this library needs already: knowing the
      # sum of another library's picture is no key to it.
      #
      # @param document [Hash]
      # @return [Core::Preset::Preset]
      # @raise [Core::Preset::MissingNeed]
      def preset_from(document, library) = seen(Core::Preset::Preset[document], library)

      # @param value [Core::Preset::Preset]
      # @return [Core::Preset::Preset] the same
      # @raise [Core::Preset::MissingNeed]
      def seen(value, library)
        sums = value.needs.map { |need| Core::Sum.in(need) }
        seen = library.pictures_needed(value.needs) | library.parts.seen_by(person).where(sha256: sums).pluck(:sha256)
        seen = seen.map { |sum| Core::Sum.reference(sum) }
        missing = Core::Preset::MissingNeed.of(value, seen)
        raise missing if missing
        value
      end

      # A picture of this library: one that a brush here needs, or a part on a shelf that the person sees.
      #
      # @param sum [String]
      # @return [String] its bytes
      # @raise [ActiveRecord::RecordNotFound]
      def seen_picture(library, sum)
        known = library.parts.seen_by(person).exists?(sha256: sum) || library.pictures_needed([sum]).any?
        raise ActiveRecord::RecordNotFound unless known
        Models::Asset::Bytes.fetch(sum) { raise ActiveRecord::RecordNotFound }
      end

      private

      def why_not(member, deed)
        library = member.library
        unless library.lets?(deed)
          return "“#{library.name}” is archived: it is only looked at." if library.archived_at
          return "“#{library.name}” keeps originals as they were received. Take the brush into another library and " \
            "change it there."
        end
        "You are here as #{member.role} and may not do this. Ask a lead of this library."
      end

      # Signing in and out, and what leads there.
      def open_to_anyone? = Contract.operation(request.request_method, request.path_info)&.may == :anyone

      # A token is shown once and kept nowhere.
      def secret? = request.path_info.match?(%r{\A/api/(tokens|invitations|me/password|libraries/\d+/invitations)})

      # @return [Contract::Operation]
      # @raise [Application::Halt] 404
      def operation
        @operation ||= Contract.operation(request.request_method, request.path_info) ||
          refuse(404, "There is no such address.")
      end

      # Each request is somebody's, and takes its room.
      def take_rooms
        env["fobrel.room"] = []
        Core::Apart.turn.who = whose
        take_room(:any)
        take_room(:writing) unless request.get? || request.head?
      end

      def take_room(kind) = env["fobrel.room"] << App::Room.here.enter(kind, whose)

      # Whose share a request is of: a desk has its own, though one lead made the tokens of all of them.
      def whose
        desk = token? && token_shown&.desk_id
        desk ? "desk #{desk}" : person.id
      end

      # Held against whose library the address names. A thing that is not there, or not theirs to see, is the
      # route's to tell.
      def check_rights
        library_id = Contract.library_id(request.path_info) unless operation.open?
        if token? && person && !token_shown.reaches?(operation, request.path_info, library_id)
          refuse(403, "This token does not reach so far. Nothing was changed. Make another one in Fobrel.")
        end
        refuse(403, "This is for the studio’s administrator.") if operation.may == :studio && !person.owner
        membership(library_id) if library_id
      end

      # What stands behind the question mark, whoever wrote it.
      def asked
        query = request.GET
        odd = query.find { |name, value| !plain?(name) || !plain?(value) }
        refuse(400, "#{odd.first.to_s.scrub.delete("\0")[0, 40]} must be one value.") if odd
        operation.asked(query)
      rescue Rack::QueryParser::InvalidParameterError, Rack::QueryParser::ParameterTypeError, EncodingError
        refuse(400, "What stands behind the question mark cannot be read.")
      end

      def plain?(value) = value.is_a?(String) && value.valid_encoding? && !value.include?("\0")

      def recall
        key = request.env["HTTP_IDEMPOTENCY_KEY"]
        unless key.match?(/\A[\w-]{8,100}\z/)
          refuse(
            400,
            "The key of a request is 8 to 100 letters, digits and hyphens."
          )
        end
        reply = Models::Reply.begin(person, key, fingerprint)
        refuse(422, "This key belongs to another request. Nothing was changed.") unless reply.asked == fingerprint
        refuse(425, "This is being done at this moment. Ask again in a second.") if reply.under_way?
        return @reply = reply if reply.fresh?
        content_type :json
        halt reply.status, reply.body
      end

      # What a key stands for: the route with all that it was asked with, and every byte of the body.
      def fingerprint
        @fingerprint ||= begin
          sum = OpenSSL::Digest.new("SHA256")
          body = request.body
          while (piece = body&.read(1 << 20))
            sum << piece
          end
          body&.rewind
          "#{request.request_method} #{request.fullpath} #{sum.hexdigest}"
        end
      end

      def read_json
        text = read_body.dup.force_encoding("UTF-8").scrub
        data = JSON.parse(text, max_nesting: Core::Preset::Preset::MAX_DEPTH + 4)
        refuse(400, "The request is not a JSON object.") unless data.is_a?(Hash)
        refuse(422, "A text in it has a NUL, or a number is too large. Nothing was changed.") if unkeepable?(data)
        data
      rescue JSON::ParserError
        refuse(400, "The request is not JSON.")
      end

      # What no column and no document can hold.
      def unkeepable?(value)
        case value
        when Hash then value.any? { |key, inner| unkeepable?(key) || unkeepable?(inner) }
        when Array then value.any? { |inner| unkeepable?(inner) }
        when String then value.include?("\0")
        when Integer then value.abs > 2**62
        when Float then !value.finite?
        else false
        end
      end
    end
  end
end
