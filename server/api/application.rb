# frozen_string_literal: true

require "sinatra/extension"

module Fobrel
  module Api
    # The one application behind /api. Its resources are extensions, one file each; what they share is here and in
    # Asking and Answering. Before a route runs it is clear who asks, that they may, and that what they sent has the
    # shape that openapi.yaml gives it.
    #
    #   module Api
    #     module Hidden
    #       extend Sinatra::Extension
    #
    #       get "/api/libraries/:library/hidden" do
    #         answer({presets: Views::Rows.of(library.presets.hidden, person)})
    #       end
    #     end
    #   end
    class Application < Sinatra::Base
      # Raised to answer with a status and a sentence.
      class Halt < StandardError
        attr_reader :status

        def initialize(status, message)
          @status = status
          super(message)
        end
      end

      # Tells a page that it had better wait: it goes on by itself once the database is back.
      AWAY = "X-Away"

      configure do
        set :show_exceptions, false
        set :raise_errors, false
        set :dump_errors, false
        set :logging, nil
        set :protection, false # done in App
        set :static, false
        set :host_authorization, {permitted_hosts: []}
        disable :sessions
      end

      helpers Asking, Answering

      # What is done is written down with where it comes from.
      def route!(*asked) = Fobrel::History::Via.from(via) { super(*asked) }

      # Nobody learns anything before they signed in, not even that their request is ill-formed.
      before { take_rooms unless open_to_anyone? }
      # Nor before it is clear that they may ask this.
      before { check_rights }
      before { @params = Sinatra::IndifferentHash[asked] }
      # What was asked before under the same key is answered as it was then, and not done again.
      before { recall if request.env.key?("HTTP_IDEMPOTENCY_KEY") && !request.get? && !open_to_anyone? }
      after { @reply&.answered(response.status, Array(response.body).join, keep: !secret?) }

      error(Halt) { |e| answer({error: e.message}, e.status) }
      error(Sinatra::BadRequest) { answer({error: "What stands behind the question mark cannot be read."}, 400) }
      error(Contract::Unlike) { |e| answer({error: e.message}, 400) }
      error(Actions::Action::Overtaken) { |e| answer({error: e.message}, 409) }
      error(Core::Apart::Busy) { |e| headers("Retry-After" => "1") && answer({error: e.message}, 503) }
      error(Core::Apart::Gone) { |e| answer({error: e.message}, 503) }
      error(Core::Clock::Over) { |e| answer({error: "#{e.message} #{lighter}"}, 422) }
      error(Core::Problem) { |e| answer({error: e.message}, 422) }
      error(ActiveRecord::RecordInvalid) do |e|
        answer({error: "#{e.record.errors.full_messages.join(". ")}. Nothing was saved."}, 422)
      end
      error(ActiveRecord::ConnectionNotEstablished, ActiveRecord::ConnectionFailed, PG::ConnectionBad) do |e|
        Watching::Log.line("trouble", what: "The database", said: e.class.name, id: env["fobrel.number"])
        headers("Retry-After" => "2", AWAY => "database")
        answer(
          {error: "The database does not answer. What was saved before is still there. Try again in a moment."},
          503
        )
      end
      {
        [ActiveRecord::LockWaitTimeout, ActiveRecord::Deadlocked] =>
          [
            409,
            "Somebody is changing the same things at this moment, and that takes a while. Nothing was changed " \
              "by you. Try again when it is done."
          ],
        [ActiveRecord::InvalidForeignKey] =>
          [409, "Somebody deleted one of these at this moment. Nothing was changed by you. Reload and look again."],
        [ActiveRecord::RecordNotUnique] =>
          [409, "That name is taken. Choose another."],
        [ActiveRecord::RecordNotFound] => [404, "This doesn’t exist, or you don’t have access."],
        [ActiveModel::RangeError] => [422, "A number in it is too large. Nothing was changed."]
      }.each do |errors, (status, message)|
        error(*errors) { answer({error: message}, status) }
      end
      error do |e|
        number = env["fobrel.number"]
        route = Contract.operation(request.request_method, request.path_info)&.path
        Watching::Log.trouble("#{request.request_method} #{route}", e, id: number)
        answer(
          {
            error: "Something went wrong on our side. What was saved before is still there. Try again; if it stays " \
              "so, tell whoever looks after Fobrel the number #{number}."
          },
          500
        )
      end

      PAINTS = %r{/(strip|pad|comparison|sample-strokes)\b}
      private_constant :PAINTS

      helpers do
        # What to do where it took too long.
        def lighter
          return "Widen the spacing, or lower the count or the size." if request.path_info.match?(PAINTS)
          "Try again in a moment, or with fewer brushes."
        end
      end

      # What is asked for most comes first.
      RESOURCES = [
        Strips,
        Session,
        Me,
        Invitations,
        People,
        Libraries,
        Studio,
        Presets,
        Versions,
        Bench,
        SampleStrokes,
        Adjustments,
        Parts,
        Previews,
        Works,
        Brushes,
        Proposals,
        Talk,
        Live,
        Follows,
        Locks,
        Hidden,
        Duplicates,
        Tags,
        Categories,
        Sets,
        Bundles,
        Releases,
        Canvas,
        Import,
        Gallery,
        Exports,
        ExportTemplates,
        History,
        Storage,
        Desks,
        Tokens
      ].freeze
      RESOURCES.each { |resource| register resource }
    end
  end
end
