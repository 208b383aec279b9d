# frozen_string_literal: true

module Fobrel
  module Api
    # A person’s own adjustments, laid over any brush.
    module Adjustments
      extend Sinatra::Extension

      get "/api/adjustments" do
        answer(adjustments_view(Models::Adjustments.of(person)))
      end

      put "/api/adjustments" do
        adjustments = Core::Stroke::Adjustments[json]
        Models::Adjustments.find_or_initialize_by(person:).update!(settings: adjustments.settings)
        answer(adjustments_view(adjustments))
      end

      # The pressure curve that suits these strokes; nothing is kept.
      post "/api/adjustments/fit" do
        answer({curve: at_once(Core::Stroke::Adjustments, :fit, json["strokes"].map { |stroke| samples(stroke) })})
      end

      helpers do
        def adjustments_view(adjustments)
          {**adjustments.settings, plain: adjustments.plain?, drawn: drawn(adjustments)}
        end
      end
    end
  end
end
