# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Chooses the next frame of a tip made of several.
      class Reel
        # @param preset [Preset::Preset]
        def initialize(preset)
          @count = preset.frames.size
          @turns = Array(preset["tip", "form", "turn"] || "in order")
          @columns = (preset["tip", "form", "columns"] || 1).clamp(1, [@count, 1].max)
        end

        # @param index [Integer] how many dabs came before
        # @param last [Integer, nil] the frame before
        # @param walk [Walk] asked what its sensors read at this stop, and for a response's say in it, which comes
        #   before the turn
        # @param chance [Random]
        # @return [Integer] from 0
        def frame(index, last, walk, chance)
          return 0 if @count < 2
          driven = walk.here("frame")
          return bin(driven, @count) if driven
          return turn(@turns.first, index, last, @count, walk, chance) if @turns.size == 1
          rows = @count / @columns
          row = turn(@turns[0], index, last && last / @columns, rows, walk, chance)
          column = turn(@turns[1], index, last && last % @columns, @columns, walk, chance)
          row * @columns + column
        end

        private

        def turn(name, index, last, count, walk, chance)
          case name
          when "in order" then index % count
          when "shuffled" then shuffled(last, count, chance)
          else bin(walk.reading(name), count)
          end
        end

        # Equal bins over the sensor's range.
        def bin(reading, count) = (reading * count).floor.clamp(0, count - 1)

        # No frame twice running where there is a choice.
        def shuffled(last, count, chance)
          return chance.rand(count) if last.nil? || count < 3
          (last + 1 + chance.rand(count - 1)) % count
        end
      end
    end
  end
end
