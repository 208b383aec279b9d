# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # Short words that say what a brush does, worked out from its settings.
      module Traits
        SENSED = %w[pressure tilt speed direction].freeze

        # @param preset [Preset::Preset]
        # @return [Array<String>] such as ["picture tip", "answers to pressure", "grain"]
        def self.of(preset)
          sensed = preset["response"].map { _1["by"].delete_suffix(" direction") }
          [tip(preset),
            (preset["method"] unless preset["method"] == "dabs"),
            *("answers to #{(SENSED & sensed).join(", ")}" if (SENSED & sensed).any?),
            ("jitter" if sensed.include?("random")),
            ("scatter" if preset["trail", "scatter"].values.any?(&:positive?)),
            ("grain" if preset["surface"]),
            ("crisp" if preset["mark", "crisp"]),
            ("erases" if preset["pigment", "eraser"]),
            ("mixes" if preset["pigment", "mix"].positive?),
            ("lays under" if preset["habits", "under"]),
            ("fixed colour" if preset["pigment", "colour", "mode"] == "fixed"),
            ("huge" if preset["mark", "size", "base"] > 400)].compact
        end

        def self.tip(preset)
          return "shape tip" if preset["mark", "tip", "kind"] == "shape"
          return "reel of #{preset.frames.size}" if preset.frames.size > 1
          return "picture tip" if preset.frames.any?
          hardness = preset["mark", "tip", "hardness"]
          if hardness >= 0.9
            "hard"
          else
            ((hardness <= 0.3) ? "soft" : "half soft")
          end
        end
        private_class_method :tip
      end
    end
  end
end
