# frozen_string_literal: true

module Fobrel
  module Api
    # What every resource shares: JSON in and out, who is signed in, what they may do, and
    # errors as sentences.
    class Base < Sinatra::Base
      # Raised to answer with a status and a sentence.
      class Halt < StandardError
        attr_reader :status

        def initialize(status, message)
          @status = status
          super(message)
        end
      end

      # Tells a page what its person is in the library it asked about, at every answer.
      ROLE = "X-Role"
      MAX_JSON = 8 * 1024 * 1024

      configure do
        set :show_exceptions, false
        set :raise_errors, false
        set :dump_errors, false
        set :logging, nil
        set :protection, false # done once for all resources in App
        set :static, false
        set :host_authorization, {permitted_hosts: []}
        disable :sessions
        # Off where an answer holds what must not be written down.
        set :replies_kept, true
      end

      # Only signing in and out writes the session: an answer that was under way while somebody
      # signed out must not bring their session back.
      before { request.session_options[:skip] = true unless request.path_info == "/api/session" }
      # Nobody learns anything before they signed in, not even that their request is ill-formed.
      before { known if request.path_info.start_with?("/api/") && request.path_info != "/api/session" }

      # Nor before it is clear that they may ask this.
      before { allowed }

      # A value of an address is a plain text, whoever wrote it.
      before {
        request.GET.each { |key, value|
          raise Halt.new(400, "#{key[0, 40]} must be one value.") unless value.is_a?(String) && !value.include?("\0")
        }
      }

      # What was asked before under the same key is answered as it was then, and not done again.
      before { recall if request.env.key?("HTTP_IDEMPOTENCY_KEY") && !request.get? }
      after {
        env.delete("fobrel.reply")&.answered(response.status, Array(response.body).join, keep: settings.replies_kept)
      }

      error(Halt) { |e| answer({error: e.message}, e.status) }
      error(ActiveRecord::LockWaitTimeout, ActiveRecord::Deadlocked) {
        answer(
          {
            error: "Somebody is changing the same things at this moment, and that takes a while. Nothing was changed " \
              "by you. Try again when it is done."
          },
          409
        )
      }
      error(Actions::Action::Overtaken) { |e| answer({error: e.message}, 409) }
      error(Core::Apart::Busy) { |e| headers("Retry-After" => "1") && answer({error: e.message}, 503) }
      error(Core::Apart::Gone) { |e| answer({error: e.message}, 503) }
      error(Core::Problem) { |e| answer({error: e.message}, 422) }
      error(ActiveRecord::RecordInvalid) { |e|
        answer({error: e.record.errors.full_messages.join(". ") + ". Nothing was saved."}, 422)
      }
      error(ActiveRecord::RecordNotFound) {
        answer({error: "There is no such thing here, or it is not yours to see."}, 404)
      }
      error(ActiveModel::RangeError) { answer({error: "A number in it is too large. Nothing was changed."}, 422) }
      error(ActiveRecord::RecordNotUnique) {
        answer({error: "Something of that name is already here. Nothing was saved. Take another name."}, 409)
      }
      error do |e|
        warn "#{request.request_method} #{request.path}: #{e.class}: #{e.message}", *e.backtrace.first(8)
        answer({error: "Something went wrong on our side. What was saved before is still there. Try again."}, 500)
      end

      helpers do
        def answer(data, status = 200)
          content_type :json
          halt status, JSON.generate(data)
        end

        # Asked by every resource that a request passes through, and done by the first.
        def recall
          return if env["fobrel.reply"] || env["fobrel.recalled"]
          env["fobrel.recalled"] = true
          key = request.env["HTTP_IDEMPOTENCY_KEY"]
          unless key.match?(/\A[\w-]{8,100}\z/)
            raise Halt.new(
              400,
              "The key of a request is 8 to 100 letters, digits and hyphens."
            )
          end
          asked = "#{request.request_method} #{request.path_info}"
          reply = Models::Reply.begin(person, key, asked)
          raise Halt.new(422, "This key belongs to another request. Nothing was changed.") unless reply.asked == asked
          raise Halt.new(425, "This is being done at this moment. Ask again in a second.") if reply.under_way?
          return env["fobrel.reply"] = reply if reply.fresh?
          content_type :json
          halt reply.status, reply.body
        end

        def person
          # Asked by every resource that a request passes through, so kept with the request.
          env["fobrel.person"] ||= (token? ? of_token : Models::Person.find_by(id: session["person"])) || raise(
            Halt.new(401, token? ? "This token is not known here. Make a new one in Fobrel." : "Sign in first.")
          )
        end

        def of_token = token && Models::AccessToken.person(token)

        # A program's token stands for the person who made it; then the cookie counts for nothing.
        def token = env["HTTP_AUTHORIZATION"].to_s[/\ABearer (\S{1,200})\z/, 1]

        def token? = env["HTTP_AUTHORIZATION"].to_s.start_with?(App::BEARER)

        # Each request is somebody's, and takes its room; asked by every resource that it passes through.
        def known
          return if env["fobrel.room"]
          env["fobrel.room"] = []
          Core::Apart.turn.who = person.id
          take_room(:any)
          take_room(:writing) unless request.get? || request.head?
        end

        def take_room(kind) = env["fobrel.room"] << App::Room.here.enter(kind, person.id)

        # What the contract says of this route, held against whose library its address names. A thing that is
        # not there, or not theirs to see, is the route's to tell.
        def allowed
          deed = Contract.may(request.request_method, request.path_info)
          return if deed.nil? || Contract::OPEN.include?(deed)
          library_id = Contract.library_id(request.path_info)
          membership(library_id, deed) if library_id
        end

        # The libraries this person is a member of; nothing else exists for them. What they may do there is what
        # the contract says of this route.
        #
        # @param deed [Symbol] where a route asks for more in some cases
        def membership(library_id, deed = may)
          @members ||= {}
          found = @members[library_id.to_i] ||=
            person.memberships.includes(:library).find_by!(library_id: number(library_id))
          Core::Apart.turn.where = found.library_id
          headers ROLE => "#{found.library_id} #{found.role}"
          return found if found.may?(deed)
          raise Halt.new(
            403,
            "You are here as #{found.role} and may not do this. Nothing was changed. Ask a lead of this library."
          )
        end

        # @return [Symbol] a deed of Models::Membership
        def may
          deed = Contract.may(request.request_method, request.path_info)
          raise ArgumentError, "the contract knows no deed for this route" if deed.nil? || Contract::OPEN.include?(deed)
          deed
        end

        def library(id: params["library"]) = membership(id).library

        def removed(record) = answer({entry: Views.entry(Actions::Remove.call(record:, person:))})

        # A record of a library, if this person may do the deed there.
        def of_library(relation, id: params["id"])
          record = relation.find(number(id))
          membership(record.library_id)
          record
        end

        def number(text)
          Integer(text.to_s, 10).tap { raise ActiveRecord::RecordNotFound unless _1.between?(1, 2**62) }
        rescue ArgumentError
          raise ActiveRecord::RecordNotFound
        end

        def json
          text = read_body(MAX_JSON)
          data = JSON.parse(text.dup.force_encoding("UTF-8").scrub, max_nesting: Core::Preset::Preset::MAX_DEPTH + 4)
          raise Halt.new(400, "The request is not a JSON object.") unless data.is_a?(Hash)
          if unkeepable?(data)
            raise Halt.new(
              422,
              "A text in it has a NUL, or a number is too large. Nothing was changed."
            )
          end
          Contract.check(request.request_method, request.path_info, data)
          data
        rescue Contract::Unlike => e
          raise Halt.new(400, e.message)
        rescue JSON::ParserError
          raise Halt.new(400, "The request is not JSON.")
        end

        # What no column and no document can hold.
        def unkeepable?(value)
          case value
          when Hash then value.any? { |key, inner| unkeepable?(key) || unkeepable?(inner) }
          when Array then value.any? { unkeepable?(_1) }
          when String then value.include?("\0")
          when Integer then value.abs > 2**62
          when Float then !value.finite?
          else false
          end
        end

        def read_body(most)
          text = request.body.read(most + 1).to_s
          raise Halt.new(413, too_large(most)) if text.bytesize > most
          text
        end

        def too_large(most) = "This is larger than #{most / 1024 / 1024} MB. Nothing was kept."

        def text(data, key, default = nil, most: 10_000)
          value = data.fetch(key, default)
          value.is_a?(String) ? value[0, most] : raise(Halt.new(400, "#{key} must be a text."))
        end

        def ids(data, key = "preset_ids")
          list = data[key]
          valid = list.is_a?(Array) && list.size <= 20_000 && list.all? { _1.is_a?(Integer) && _1.between?(1, 2**62) }
          valid ? list : raise(Halt.new(400, "#{key} must be a list of numbers."))
        end

        # Which heading each preset stands under; nil where nothing is said of it.
        def sections(data)
          return unless data["sections"].is_a?(Hash)
          data["sections"].to_h { |id, name| [number(id), name.to_s[0, 60]] }
        end

        # A preset sent by the page. Its pictures must be ones that a brush of this library
        # needs already: knowing the sum of another library's picture is no key to it.
        def document(data, library) = seen(Core::Preset::Preset[data["document"]], library)

        def seen(value, library)
          unseen = value.needs.map { _1.delete_prefix("sha256:") } - library.pictures_needed(value.needs)
          raise Core::Preset::MissingNeed.new(value, "sha256:#{unseen.first}") if unseen.any?
          value
        end

        def inline(png) = "data:image/png;base64,#{[png].pack("m0")}"

        def signed?(flag) = %w[1 true].include?(params[flag])

        def forever(type, bytes)
          headers "Cache-Control" => "private, max-age=31536000, immutable", "Content-Type" => type
          halt 200, bytes
        end
      end
    end
  end
end
