# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # What a tip becomes before anybody tunes it.
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

        # @param name [String]
        # @param tip [Hash] `mark.tip` of the preset
        # @param size [Float] px
        # @param spacing [Float] share of the size
        # @return [Preset]
        def self.build(name, tip, author: "", size: 40, spacing: 0.25)
          Preset.build(
            name,
            {
              "mark" => {"tip" => tip, "size" => {"base" => size}},
              "trail" => {"spacing" => spacing},
              "response" => RESPONSE,
              "about" => {"author" => author}
            }
          )
        end
      end
    end
  end
end
