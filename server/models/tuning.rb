# frozen_string_literal: true

module Fobrel
  module Models
    # The steps in which one person tuned one brush, and at which of them they are now. Steps that
    # were taken back wait to be done again until another change is made.
    class Tuning < Record
      MOST = 200

      belongs_to :person
      belongs_to :preset
      has_many :steps, -> { order(:number) }, class_name: "Fobrel::Models::TuningStep"

      # @return [Tuning]
      def self.of(preset, person) = find_or_create_by!(preset:, person:)

      # Whoever changes what a person has on the Bench says so here, before and after.
      #
      # @param from [Core::Preset::Preset] what was there
      # @param to [Core::Preset::Preset] what is there now
      # @param fresh [Boolean] false where it goes on with the last step, such as a slider that is
      #   still being dragged
      def add(from, to, fresh: true)
        note(from)
        return if at.like?(to)
        (fresh || place == steps.minimum(:number) || forward.exists?) ? put(to) : at.update!(document: to.to_h)
      end

      # Another deed than tuning, such as a reset, may have changed what is there; it is a step too.
      #
      # @param value [Core::Preset::Preset] what is there
      def note(value)
        lock!
        put(value) unless at&.like?(value)
      end

      # @param by [Integer] −1 goes a step back, 1 a step forth
      # @return [Core::Preset::Preset, nil] what was there at that step; nil where there is none
      def go(by)
        lock!
        found = steps.find_by(number: place + by) or return
        update!(place: found.number)
        found.value
      end

      # @return [Hash] how many steps can be taken back, and how many done again
      def room = {back: steps.where("number < ?", place).count, forth: forward.count}

      private

      def at = steps.find_by(number: place)

      def forward = steps.where("number > ?", place)

      def put(value)
        forward.delete_all
        update!(place: place + 1)
        steps.create!(number: place, document: value.to_h)
        steps.where("number <= ?", place - MOST).delete_all
      end
    end
  end
end
