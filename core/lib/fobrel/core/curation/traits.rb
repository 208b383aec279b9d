# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # Short words that say what a brush does, worked out from its settings.
      module Traits
        SENSED = %w[pressure tilt speed direction distance time].freeze
        SHIFTED = %w[hue saturation lightness].freeze
        HUGE = 400

        # @param preset [Preset::Preset]
        # @return [Array<String>] such as ["reel of 3", "answers to pressure, tilt", "grain"]
        def self.of(preset) = [tip(preset), *paint(preset), *hand(preset), *look(preset)].compact

        # What a trait counts as where many are counted: one that ends in a list is each of the list,
        # one that ends in a number is itself without it.
        #
        # @param trait [String] such as "answers to pressure, tilt"
        # @return [Array<String>] such as ["answers to pressure", "answers to tilt"]
        def self.counted(trait)
          return ["reel"] if trait.start_with?("reel of ")
          head, list = trait.match(LISTED)&.captures
          head ? list.split(", ").map { "#{head} #{_1}" } : [trait]
        end

        # The traits that mean a word which ends in one of a list: "answers to tilt" means "answers to pressure, tilt"
        # too. A beginning of such a word is taken for it.
        #
        # @param word [String] lower case
        # @return [Array<String>] none where it is no such word; a part of a trait may then be meant
        def self.meant(word)
          head, named = word.match(LISTED)&.captures
          LISTS.fetch(head, []).select { |list| list.any? { _1.start_with?(named) } }.map {
            "#{head} #{_1.join(", ")}"
          }
        end

        LISTED = /\A(answers to|shifts) (.+)\z/
        # Each list that can be: those of the senses in their order, those of shifts in any.
        LISTS = {
          "answers to" => (1..SENSED.size).flat_map { SENSED.combination(_1).to_a },
          "shifts" => (1..SHIFTED.size).flat_map { SHIFTED.permutation(_1).to_a }
        }.freeze
        private_constant :LISTED, :LISTS

        class << self
          private

          def tip(preset)
            return "shape tip" if preset["tip", "form", "kind"] == "shape"
            return "reel of #{preset.frames.size}" if preset.frames.size > 1
            return "picture tip" if preset.frames.any?
            hardness = preset["tip", "form", "hardness"]
            if hardness >= 0.9
              "hard"
            else
              ((hardness <= 0.3) ? "soft" : "half soft")
            end
          end

          def paint(preset)
            paint = preset["paint"]
            method = preset["method"]
            moves = method == "smear" && paint["own_paint"].zero?
            [
              (method unless %w[dabs smear].include?(method)),
              ("moves paint only" if moves),
              ("mixes" if !moves && (method == "smear" || paint["mix"].positive?)),
              ("erases" if paint["eraser"]),
              ("paints behind" if preset["extras", "behind"]),
              (Preset::Wording.value(%w[paint blend], paint["blend"]) unless paint["blend"] == "normal"),
              ("own colours" if preset["tip", "form", "colours"] == "own"),
              ("fixed colour" if paint["colour"]["mode"] == "fixed")
            ]
          end

          def hand(preset)
            by = preset["response"].map { (_1["by"] == "tilt direction") ? "tilt" : _1["by"] }
            by += Array(preset["tip", "form", "turn"]) if preset.frames.size > 1
            sensed = SENSED & by
            [
              ("answers to #{sensed.join(", ")}" if sensed.any?),
              ("jitter" if (by & %w[random stroke]).any?),
              ("scatter" if preset["stroke", "scatter"].values.any?(&:positive?)),
              ("smoothed" if preset["stroke",
                "smoothing"].positive?)
            ]
          end

          def look(preset)
            shifts = preset["response"].map { _1["drives"] } & SHIFTED
            [
              ("shifts #{shifts.join(", ")}" if shifts.any?),
              ("grain" if preset["grain"]),
              ("hard pixels" if preset["tip", "hard_pixels"]),
              ("huge" if preset["tip", "size", "base"] > HUGE)
            ]
          end
        end
      end
    end
  end
end
