# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # What of somebody's wishes for a preset can be: the settings that are valid, by themselves
      # and with all others. One that is impossible stays as it was and does not hold up the rest.
      #
      #   possible = Possible.of({… "least" => 50, "most" => 10 …, "flow" => 0.2}, on: fog)
      #   possible.preset["paint", "flow"]  # => 0.2
      #   possible.held                       # => ["Minimum size 1 px → 50 px is not possible …"]
      class Possible
        # @return [Preset]
        attr_reader :preset
        # @return [Array<String>] a sentence for each setting that stays as it was
        attr_reader :held

        # @param wish [Hash] a whole document
        # @param on [Preset] what it was before
        # @return [Possible]
        # @raise [Preset::Invalid] when the wish is no preset at all, or that of another brush
        def self.of(wish, on:)
          problems = Schema.problems(wish)
          return new(Preset[wish], []) if problems.empty?
          raise Preset::Invalid.new(problems, "“#{on.name}”") unless comparable?(wish) && wish["id"] == on.id
          some(Changes.between(on, Preset.restore(wish)), on)
        end

        # One impossible setting may become possible after another has changed, so those that fail
        # are tried once more at the end.
        def self.some(changes, on)
          now, failed = try(changes, on)
          now, failed = try(failed, now)
          new(
            now,
            failed.map { |change|
              "#{change.words} is not possible, so #{Wording.title(change.path)} stays as it was."
            }
          )
        end

        def self.try(changes, on)
          changes.inject([on, []]) do |(now, failed), change|
            [Changes.new([change]).apply(now), failed]
          rescue Preset::Invalid
            [now, failed << change]
          end
        end

        # Whether it has the shape that settings can be compared in.
        def self.comparable?(wish)
          responses = wish.is_a?(Hash) ? wish.fetch("response", []) : nil
          responses.is_a?(Array) && responses.all?(Hash) && wish["tip"].is_a?(Hash) && %w[
            stroke
            paint
            extras
            about
          ].all? {
            wish.fetch(_1, {}).is_a?(Hash)
          }
        end
        private_class_method :some, :try, :comparable?

        def initialize(preset, held)
          @preset = preset
          @held = held.freeze
          freeze
        end
      end
    end
  end
end
