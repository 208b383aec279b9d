# frozen_string_literal: true

module Fobrel
  module Models
    # A movement that a person recorded on the pad, to be replayed with any preset.
    class SampleStroke < Record
      MOST = 50

      belongs_to :person
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..40}
      validates :width, :height, numericality: {only_integer: true, in: 20..4000}
      validate(on: :create) {
        if person.sample_strokes.count >= MOST
          errors.add(
            :base,
            "You keep #{MOST} sample strokes already. Remove one first"
          )
        end
      }

      # @return [Core::Stroke::SampleStroke]
      def value
        Core::Stroke::SampleStroke.new("own-#{id}", {"title" => name, "page" => [width, height], "samples" => samples})
      end
    end
  end
end
