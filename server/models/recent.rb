# frozen_string_literal: true

module Fobrel
  module Models
    # A preset that a person had on the Bench, and when.
    class Recent < Record
      KEPT = 60

      belongs_to :person
      belongs_to :preset

      # Writes down that a person has a brush on the Bench now.
      def self.note(person, preset)
        upsert({person_id: person.id, preset_id: preset.id, used_at: Time.current}, unique_by: %i[person_id preset_id])
      end
    end
  end
end
