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

      # The same for many brushes at once: a step back then leads to what was there before.
      #
      # @param person [Person]
      # @param changes [Array<Array(Integer, Core::Preset::Preset, Core::Preset::Preset)>] of each
      #   preset, what was there and what is there now
      def self.add_all(person, changes)
        return if changes.empty?
        insert_all(changes.map { |id, _, _| {person_id: person.id, preset_id: id} }, unique_by: %i[person_id preset_id])
        tunings = where(person:, preset_id: changes.map(&:first)).order(:id).lock.index_by(&:preset_id)
        current = TuningStep.joins(:tuning).where("tuning_steps.number = tunings.place")
        now = current.where(tuning: tunings.values).index_by(&:tuning_id)
        TuningStep.joins(:tuning).where(tuning: tunings.values).where("tuning_steps.number > tunings.place").delete_all
        changes.each_slice(200) { |some| add_some(some, tunings, now) }
        TuningStep.joins(:tuning).where(tuning: tunings.values).where(
          "tuning_steps.number <= tunings.place - ?",
          MOST
        ).delete_all
      end

      def self.add_some(changes, tunings, now)
        steps = changes.flat_map do |id, from, to|
          tuning = tunings.fetch(id)
          fresh = now[tuning.id]&.like?(from) ? [to] : [from, to]
          fresh.each_with_index.map { |value, index|
            {tuning_id: tuning.id, number: tuning.place + index + 1, document: value.to_h}
          }
        end
        TuningStep.insert_all!(steps)
        places = steps.group_by { _1[:tuning_id] }.map { |id, list| "(#{id}, #{list.last[:number]})" }
        connection.execute(
          "UPDATE tunings SET place = v.place FROM (VALUES #{places.join(", ")}) AS v(id, place) WHERE tunings.id = " \
            "v.id"
        )
      end
      private_class_method :add_some

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
