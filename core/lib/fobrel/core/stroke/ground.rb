# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # What a strip prepares under a stroke that would not show on nothing: paint to be moved,
      # a ground to be erased or laid under, grey for a light colour, colours for a blend mode.
      module Ground
        PAINT = %w[#0f6b6b #b4701f #a3312f #56507c].map { Colour.parse(_1) }.freeze
        GREY = Colour.parse("#808080")
        TONE = Colour.parse("#6f8790")

        # Grounds that can be asked for by name.
        NAMES = %w[white grey black painted].freeze
        WHITE = Colour.parse("#ffffff")
        BLACK = Colour.parse("#000000")

        # @param name [String] one of NAMES
        # @param width [Integer] pixels
        # @param height [Integer] pixels
        # @return [Page]
        # @raise [KeyError] naming the ground that is none
        def self.named(name, width, height)
          case name
          when "white" then Page.plain(width, height, WHITE)
          when "grey" then Page.plain(width, height, GREY)
          when "black" then Page.plain(width, height, BLACK)
          when "painted" then Page.plain(width, height, WHITE).under(bars(width, height))
          else raise KeyError, "no ground is called #{name.inspect}; there are #{NAMES.join(", ")}"
          end
        end

        # @param preset [Preset::Preset]
        # @param width [Integer] pixels
        # @param height [Integer] pixels
        # @return [Page, nil] nil where the stroke shows by itself
        def self.under(preset, width, height)
          paint = preset["paint"]
          if preset["method"] == "smear" || paint["mix"].positive? then bars(width, height)
          elsif paint["eraser"] then band(width, height, TONE)
          elsif preset["extras", "behind"] then bars(width, height)
          elsif paint["blend"] != "normal" then bars(width, height, alpha: 0.8)
          elsif preset["paint",
            "colour",
            "mode"] == "fixed" && Colour.parse(paint["colour"]["value"]).light? then Page.plain(width, height, GREY)
          end
        end

        # Upright bars of paint with blank page between them.
        #
        # @param width [Integer] pixels
        # @param height [Integer] pixels
        # @param alpha [Float] 0–1, how thick the paint is
        # @return [Page]
        def self.bars(width, height, alpha: 1.0)
          columns = (Numo::SFloat.new(width).seq + 0.5) * (9.0 / width)
          bar = columns.floor
          painted = Numo::SFloat.cast((bar % 2).eq(1)) * alpha
          turn = Numo::Int32.cast(bar) / 2 % PAINT.size
          page = Numo::SFloat.zeros(height, width)
          planes = [
            painted,
            *(0..2).map { |channel|
              painted * Numo::SFloat.cast(
                PAINT.map {
                  _1.parts[channel]
                }
              )[turn]
            }
          ]
          Page.new(planes.map { page + _1 })
        end

        # A broad band of one tone.
        def self.band(width, height, colour)
          page = Page.plain(width, height, colour)
          rows = Numo::SFloat.zeros(height, 1)
          rows[(height * 0.12).round...(height * 0.88).round, true] = 1
          Page.new(page.planes.map { _1 * rows })
        end
        private_class_method :band
      end
    end
  end
end
