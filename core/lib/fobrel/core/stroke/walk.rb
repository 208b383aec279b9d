# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # The way along a path from stop to stop: where the brush lays its dabs, and all that is left to chance on the
      # way, in columns. How far the next stop is depends on how large the brush is at this one, so this is a walk;
      # what else the sensors drive is worked out for all stops at once.
      class Walk
        # Rounding may leave the last stop of an even line a hair beyond its end.
        SLACK = 1e-6

        # @return [Array<Place>] the stops
        attr_reader :places
        # @return [Array<Float>] how large the brush is at each stop, px
        attr_reader :sizes

        # @param path [Path]
        # @param responses [Array<Response>]
        # @param chance [Random] the same generator gives the same walk everywhere
        def initialize(path, responses, chance)
          @path = path
          @responses = responses
          @sensors = Sensors.new(path, chance)
          @places = []
          @sizes = []
          # What the random sensor read for each response that follows it, stop by stop.
          @drawn = responses.select { |one| one.by == Sensors::CHANCE }.to_h { |one| [one, []] }
        end

        # @param size [#call] from what drives the size, or nil, to the size in px
        # @param step [#call] from a size to the distance of the next stop, px
        # @yield after each stop, with its place
        def go(size:, step:)
          driving = of("size")
          distance = 0.0
          until distance > @path.length + SLACK
            Clock.tick
            @places << (place = @path.at(distance))
            @drawn.each { |response, column| column << @sensors.reading(response.by, place) }
            @sizes << (now = size.call(driving && together_here(driving, place)))
            yield place
            distance += step.call(now)
          end
          self
        end

        # What drives something at the stop gone to last.
        #
        # @return [Float, nil] nil where nothing does
        def here(drives) = of(drives)&.then { |driving| together_here(driving, @places.last) }

        # What drives something, at all stops.
        #
        # @return [Array<Float>, nil] nil where nothing does
        def column(drives)
          driving = of(drives) or return
          answers = driving.map { |one| readings(one).map { |reading| one.answer(reading) } }
          answers.transpose.map { |all| Response.together(drives, all) }
        end

        # @return [Float] what a sensor reads at the stop gone to last
        def reading(name) = @sensors.reading(name, @places.last)

        private

        def of(drives)
          @of ||= @responses.group_by(&:drives)
          @of[drives]
        end

        def together_here(driving, place)
          answers = driving.map { |one| one.answer(@drawn[one]&.last || @sensors.reading(one.by, place)) }
          Response.together(driving.first.drives, answers)
        end

        def readings(response) = @drawn[response] || @sensors.column(response.by, @places)
      end
    end
  end
end
