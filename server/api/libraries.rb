# frozen_string_literal: true

module Fobrel
  module Api
    # Libraries: made, named, described, archived and restored.
    module Libraries
      extend Sinatra::Extension

      # Which kinds somebody who does not run the studio may make.
      FREE = %w[project].freeze

      post "/api/libraries" do
        kind = json.fetch("kind", "project")
        refuse(403, "Only whoever runs the studio makes such a library. Make one for a project.") unless person.owner ||
          FREE.include?(kind)
        answer(Views::People.library(Actions::MakeLibrary.call(person:, kind:, **words_sent)), 201)
      end

      # One's own, made when it is first asked for.
      post "/api/libraries/own" do
        answer(Views::People.library(person.own_library!.memberships.find_by!(person:)))
      end

      get "/api/libraries/:library" do
        answer(Views::People.page(library))
      end

      put "/api/libraries/:library" do
        here = library
        answer_entry(Actions::DescribeLibrary.call(library: here, person:, wish: json))
      end

      helpers do
        def words_sent = {name: json["name"], description: json.fetch("description", "")}
      end
    end
  end
end
