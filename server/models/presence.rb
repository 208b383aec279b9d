# frozen_string_literal: true

module Fobrel
  module Models
    # That somebody has a brush on the Bench at this moment.
    class Presence < Record
      self.primary_key = %i[preset_id person_id]
      belongs_to :person

      # So long after the last word somebody is still there, and so often it is written down.
      STAYS = 20.seconds
      STEP = 8.seconds

      # Writes down that a person is there.
      #
      # @return [Array<String>] names of the others
      def self.note(preset, person)
        now = Time.current
        fresh = exists?(preset_id: preset.id, person_id: person.id, seen_at: (now - STEP)..)
        unless fresh
          upsert({preset_id: preset.id, person_id: person.id, seen_at: now})
          where(seen_at: ..(now - 1.day)).delete_all if rand(50).zero?
        end
        where(preset_id: preset.id, seen_at: (now - STAYS)..).where.not(person_id: person.id)
          .joins(:person).order("people.name").pluck("people.name")
      end
    end
  end
end
