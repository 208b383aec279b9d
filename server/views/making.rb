# frozen_string_literal: true

module Fobrel
  module Views
    # What the tip maker offers: fonts, shapes with their parameters, kinds of brushes, ways of everything.
    module Making
      class << self
        # @return [Hash] as openapi.yaml describes Making
        def words
          tip = Core::Tip
          {
            fonts: tip::Lettering::FONTS.map { |font| {name: font.name, for: font.for, weights: font.weights} },
            shapes: tip::Figure::SHAPES.map { |name, own| {name:, parameters: own.map { parameter(_1) }} },
            common: tip::Figure::COMMON.map { parameter(_1) },
            kinds: Core::Preset::FromTip::KINDS.map { |name, kind|
              {name:, word: kind.word, kept: kind.kept, size: kind.size, spacing: kind.spacing}
            },
            grounds: tip::Paint::GROUNDS,
            turns: ["in order", "shuffled", "pressure", "tilt", "direction", "speed"],
            near: {usual: tip::Marks::NEAR, most: tip::Marks::FARTHEST}
          }
        end

        private

        def parameter(one)
          {
            name: one.name,
            title: one.title,
            least: one.least,
            most: one.most,
            usual: one.usual,
            unit: one.unit,
            whole: one.usual.is_a?(Integer)
          }
        end
      end
    end
  end
end
