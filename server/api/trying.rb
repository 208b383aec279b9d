# frozen_string_literal: true

module Fobrel
  module Api
    # What the page may ask for when it has a preset painted: along which movement, on which
    # ground, in which colour and size, by whose adjustments.
    module Trying
      # @param try [Hash, nil] as openapi.yaml describes Try
      # @return [Hash] what Core::Stroke::Strip.paint takes
      def way(try)
        try ||= {}
        {
          sample: sample(try["sample"]),
          colour: colour(try["colour"]),
          ground: try["ground"],
          size: try["size"]&.to_f,
          adjustments: (Models::Adjustments.of(person) if try["adjustments"])
        }.compact
      end

      # @param name [String, nil] of a shipped sample stroke, or own-<number>
      # @return [Core::Stroke::SampleStroke, nil]
      # @raise [ActiveRecord::RecordNotFound, Core::Problem]
      def sample(name)
        return if name.nil?
        own = name[/\Aown-(\d{1,18})\z/, 1]
        own ? person.sample_strokes.find(own.to_i).value : Core::Stroke::SampleStroke.fetch(name)
      end

      # @param text [String, nil]
      # @raise [Core::Problem] where it is no colour
      def colour(text) = text && Core::Stroke::Colour.parse(text)

      # @param list [Array<Hash>] as openapi.yaml describes Samples
      # @raise [Core::Problem]
      def samples(list) = Core::Stroke::Samples.from_list(list)
    end
  end
end
