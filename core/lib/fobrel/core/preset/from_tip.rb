# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # What a tip becomes before anybody tunes it.
      #
      #   FromTip.guess(width: 1200, height: 200, frames: 1)          # => ["ribbon", "garland", "stamp"]
      #   FromTip.build("Kelp", tip, kind: "garland")
      module FromTip
        # A new brush answers to pressure, so that its first stroke already shows a hand.
        RESPONSE = [
          {
            "drives" => "size",
            "by" => "pressure",
            "from" => 0.3,
            "to" => 1.0,
            "curve" => [[0, 0], [1, 1]]
          }
        ].freeze
        ANY_WAY = {"drives" => "angle", "by" => "random", "from" => -180, "to" => 180}.freeze

        # What a mark may become: a word for it, the settings it begins with, and what of them is kept.
        Kind = Struct.new(:word, :kept, :size, :settings) do
          # @return [Float] share of the size
          def spacing = settings.dig("stroke", "spacing") || 0.1
        end
        KINDS = {
          "stamp" => Kind.new(
            "stamped",
            "one size, far apart",
            120,
            {"stroke" => {"spacing" => 1.3}}
          ),
          "ink" => Kind.new(
            "ink",
            "close together, size by pressure",
            24,
            {"stroke" => {"spacing" => 0.08}, "response" => RESPONSE}
          ),
          # Common practice, no source: a texture brush is large, soft, widely spaced, with flow near 70 %.
          "texture" => Kind.new(
            "texture",
            "large, wide spacing, flow 70 %, turned by chance",
            220,
            {"stroke" => {"spacing" => 0.4}, "paint" => {"flow" => 0.7}, "response" => [ANY_WAY]}
          ),
          "ribbon" => Kind.new(
            "ribbon",
            "bent along the whole stroke",
            60,
            {"method" => "ribbon"}
          ),
          "garland" => Kind.new(
            "hung along",
            "at a distance along the line, turned with it",
            80,
            {"method" => "garland", "stroke" => {"spacing" => 1.1}}
          )
        }.freeze
        # Where nobody says what it is to be.
        PLAIN = Kind.new(nil, nil, 40, {"stroke" => {"spacing" => 0.25}, "response" => RESPONSE})
        private_constant :PLAIN
        # A drawing so many times longer than high follows the line.
        LONG = 2.5

        class << self
          # The kinds that suit a mark, the likeliest first.
          #
          # @param width [Integer] px of the mark, not of its square
          # @param height [Integer]
          # @param frames [Integer]
          # @param even [Float] 0–1: the share of its box that it paints
          # @param core [Float] 0–1: what its dark parts paint
          # @return [Array<String>] three of KINDS
          # @param surface [Boolean] whether it was taken from a photographed surface
          def guess(width:, height:, frames: 1, even: 0.3, core: 1.0, surface: false)
            first =
              if frames > 1 then %w[garland stamp ink]
              elsif surface then %w[texture stamp ink]
              elsif width >= LONG * height then %w[ribbon garland stamp]
              elsif even > 0.55 && core < 0.9 then %w[texture stamp ink]
              else %w[stamp ink garland]
              end
            first.first(3)
          end

          # @param name [String]
          # @param tip [Hash] `tip.form` of the preset
          # @param kind [String, nil] one of KINDS; nil takes size and spacing as given
          # @param size [Float, nil] px
          # @param how [Hash] what else was chosen:
          # @option how spacing [Float, nil] share of the size
          # @option how colour [String, nil] "#rrggbb" that it always paints with
          # @option how opacity [Float, nil]
          # @option how first [Float, nil] share of a ribbon's drawing, at its beginning, that keeps its length
          # @option how last [Float, nil] the same at its end
          # @return [Preset]
          def build(name, tip, kind: nil, author: "", size: nil, **how)
            begins = kind ? KINDS.fetch(kind) : PLAIN
            ends = how.slice(:first, :last).compact.transform_keys(&:to_s)
            Preset.build(
              name,
              {
                **begins.settings,
                **tuned(begins.settings, **how.slice(:spacing, :colour, :opacity).compact),
                "tip" => {
                  "form" => tip,
                  "size" => {"base" => size || begins.size},
                  **(ends.any? ? {"ends" => ends} : {})
                },
                "about" => {"author" => author}
              }
            )
          end

          private

          # What of its settings was chosen otherwise.
          def tuned(settings, spacing: nil, colour: nil, opacity: nil)
            paint = {"opacity" => opacity, "colour" => colour && {"mode" => "fixed", "value" => colour}}.compact
            {
              "stroke" => (spacing && settings["stroke"]) ? {"spacing" => spacing} : settings["stroke"],
              "paint" => paint.any? ? settings.fetch("paint", {}).merge(paint) : settings["paint"]
            }.compact
          end
        end
      end
    end
  end
end
