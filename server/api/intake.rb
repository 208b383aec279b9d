# frozen_string_literal: true

module Fobrel
  module Api
    # Where files come in: arrivals, their plans, what is decided, and the long work of it.
    module Intake
      extend Sinatra::Extension

      SHOWN = 60
      # A backup's words are long.
      HEAVY = %w[words choices report].freeze

      get "/api/libraries/:library/arrivals" do
        light = library.arrivals.select(*(Models::Arrival.column_names - HEAVY)).where.not(state: %w[open left])
        arrivals = light.includes(:person, :task, :ledger_entry).order(id: :desc).limit(SHOWN)
        answer(
          {
            arrivals: arrivals.map { |arrival| Views::Arrivals.brief(arrival) },
            folder: Jobs::WatchedFolder.of(library).delete_prefix("#{ROOT}/"),
            limits: Views::Arrivals.limits(library)
          }
        )
      end

      post "/api/libraries/:library/arrivals" do
        source = token? ? "the command line" : "dropped"
        arrival = Models::Arrival.create!(library: library, person:, name: json["name"][0, 200], source:)
        answer(Views::Arrivals.brief(arrival), 201)
      end

      # The file's bytes are the body; large ones are never held in memory.
      put "/api/arrivals/:id/files" do
        arrival = of_library(Models::Arrival)
        name = params["name"].strip
        refuse(400, "A file needs a name.") if name.empty?
        file = Actions::Deliver.add(arrival, name:, io: request.body)
        answer({name: file.name, size: file.size})
      end

      post "/api/arrivals/:id/read" do
        arrival = of_library(Models::Arrival)
        answer(Views::Arrivals.brief(Actions::Deliver.call(arrival:, person:).reload), 202)
      end

      get "/api/arrivals/:id" do
        answer(Views::Arrivals.whole(of_library(Models::Arrival), person))
      end

      put "/api/arrivals/:id" do
        arrival = Actions::Decide.call(arrival: of_library(Models::Arrival), choices: json)
        answer(Views::Arrivals.whole(arrival, person))
      end

      post "/api/arrivals/:id/apply" do
        arrival = of_library(Models::Arrival)
        answer(Views::Arrivals.brief(Actions::Apply.call(arrival:, person:, stamp: json["stamp"]).reload), 202)
      end

      # What was not taken in is let go.
      delete "/api/arrivals/:id" do
        Actions::LetGo.call(arrival: of_library(Models::Arrival))
        answer({ok: true})
      end

      # What a thing in an arrival paints; painted here, for a strip that came along could show anything.
      get "/api/arrivals/:id/strips/:item.png" do |_, item|
        arrival = of_library(Models::Arrival)
        found = arrival.items.find(item)
        raise ActiveRecord::RecordNotFound unless found.fingerprint && arrival.whole?(found)
        shape = Models::KeptStrip.beside("wall", params["beside"])
        answer_forever(Models::KeptStrip.png_for(found.fingerprint, shape) { found.value })
      end

      get "/api/libraries/:library/tasks" do
        lately = "state IN ('waiting', 'working') OR updated_at > ?"
        tasks = library.tasks.where(person: [person, nil]).where(lately, 10.minutes.ago).order(id: :desc).limit(20)
        answer({tasks: tasks.map { |task| Views.task(task) }})
      end

      # One's own, or one that nobody asked for.
      get "/api/tasks/:id" do
        task = of_library(Models::Task)
        raise ActiveRecord::RecordNotFound unless [person.id, nil].include?(task.person_id)
        answer(Views.task(task))
      end
    end
  end
end
