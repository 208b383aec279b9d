# frozen_string_literal: true

module Fobrel
  module Api
    # One's own hand, laid over any brush.
    module Hand
      extend Sinatra::Extension

      get "/api/hand" do
        answer(hand_view(Models::Hand.of(person)))
      end

      put "/api/hand" do
        hand = Core::Stroke::Hand[json]
        Models::Hand.find_or_initialize_by(person:).update!(settings: hand.settings)
        answer(hand_view(hand))
      end

      # The pressure curve that suits these strokes; nothing is kept.
      post "/api/hand/fit" do
        answer({curve: at_once(Core::Stroke::Hand, :fit, json["strokes"].map { |stroke| samples(stroke) })})
      end

      helpers do
        def hand_view(hand) = {**hand.settings, plain: hand.plain?, drawn: drawn(hand)}
      end
    end
  end
end
