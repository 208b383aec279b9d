# frozen_string_literal: true

module Fobrel
  module Api
    # Lock files: what a library stands on, written, held against and gone back to.
    module Locks
      extend Sinatra::Extension

      get "/api/libraries/:library/lock" do
        lock = Actions::WriteLock.call(library:)
        answer_file(lock.to_json, name: "fobrel.lock", type: "application/json")
      end

      # Nothing is changed with plan=true.
      post "/api/libraries/:library/lock" do
        here = library
        only_say = params.fetch("plan", false)
        done = Actions::RestoreLock.call(library: here, person:, lock: read_body, only_say:)
        answer(
          {
            differences: done.differences.map { |one| {kind: one.kind, name: one.name, id: one.id} },
            back: done.back,
            entry: done.entry && Views.entry(done.entry)
          }
        )
      end
    end
  end
end
