# frozen_string_literal: true

module Fobrel
  module Actions
    # Keeps a brush among a person's favourites, or takes it out.
    class KeepFavourite < Action
      # @param on [Boolean]
      def initialize(preset:, person:, on:)
        @preset = preset
        @person = person
        @on = on
      end

      # @return [void]
      def call
        @on ? Models::Favourite.insert(
          {
            person_id: @person.id,
            preset_id: @preset.id,
            created_at: Time.current
          }
        ) : @person.favourites.where(preset: @preset).delete_all
      end
    end
  end
end
