# frozen_string_literal: true

module Fobrel
  module Api
    # Movements to paint along: those that ship, and one's own.
    module SampleStrokes
      extend Sinatra::Extension

      get "/api/sample-strokes" do
        own = person.sample_strokes.order(:name).map { |stroke| stroke_view(stroke.value, id: stroke.id) }
        answer(
          {
            sample_strokes: Core::Stroke::SampleStroke.all.map { |stroke| stroke_view(stroke) } + own,
            stand_ins: Core::Stroke::StandIn::ALL.values.map { |one| {name: one.name, title: one.title} },
            grounds: Core::Stroke::Ground::NAMES
          }
        )
      end

      post "/api/sample-strokes" do
        movement = by_stand_in(samples(json["samples"]), json["stand_in"])
        made = person.sample_strokes.create!(**json.slice("name", "width", "height"), samples: movement.to_list)
        answer(stroke_view(made.value, id: made.id), 201)
      end

      delete "/api/sample-strokes/:id" do
        person.sample_strokes.find(params["id"]).destroy!
        answer({ok: true})
      end

      helpers do
        # @param id [Integer, nil] of one's own
        def stroke_view(stroke, id: nil) = {id:, name: stroke.name, title: stroke.title, own: !id.nil?}
      end
    end
  end
end
