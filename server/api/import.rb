# frozen_string_literal: true

module Fobrel
  module Api
    # Where files come in: imports, their plans, what is decided, and the long work of it.
    module Import
      extend Sinatra::Extension

      SHOWN = 60
      # A backup's words are long.
      HEAVY = %w[words choices report].freeze

      get "/api/libraries/:library/imports" do
        light = library.imports.select(*(Models::Import.column_names - HEAVY)).where.not(state: %w[open left])
        imports = light.includes(:person, :task, :history_entry).order(id: :desc).limit(SHOWN)
        answer(
          {
            imports: imports.map { |import| Views::Imports.brief(import) },
            folder: Jobs::WatchedFolder.of(library).delete_prefix("#{ROOT}/"),
            limits: Views::Imports.limits(library)
          }
        )
      end

      post "/api/libraries/:library/imports" do
        source = token? ? "the command line" : "dropped"
        import = Models::Import.create!(library: library, person:, name: json["name"][0, 200], source:)
        answer(Views::Imports.brief(import), 201)
      end

      # The file's bytes are the body; large ones are never held in memory.
      put "/api/imports/:id/files" do
        import = of_library(Models::Import)
        name = params["name"].strip
        refuse(400, "A file needs a name.") if name.empty?
        file = Actions::Deliver.add(import, name:, io: request.body)
        answer({name: file.name, size: file.size})
      end

      post "/api/imports/:id/read" do
        import = of_library(Models::Import)
        answer(Views::Imports.brief(Actions::Deliver.call(import:, person:).reload), 202)
      end

      get "/api/imports/:id" do
        answer(Views::Imports.whole(of_library(Models::Import), person))
      end

      put "/api/imports/:id" do
        import = Actions::Decide.call(import: of_library(Models::Import), choices: json)
        answer(Views::Imports.whole(import, person))
      end

      post "/api/imports/:id/apply" do
        import = of_library(Models::Import)
        answer(Views::Imports.brief(Actions::Apply.call(import:, person:, stamp: json["stamp"]).reload), 202)
      end

      # What was not imported is discarded.
      delete "/api/imports/:id" do
        Actions::DiscardImport.call(import: of_library(Models::Import))
        answer({ok: true})
      end

      # What a thing in an import paints; painted here, for a strip that came along could show anything.
      get "/api/imports/:id/strips/:item.png" do |_, item|
        import = of_library(Models::Import)
        found = import.items.find(item)
        raise ActiveRecord::RecordNotFound unless found.fingerprint && import.whole?(found)
        shape = Models::KeptStrip.beside("list", params["beside"])
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
