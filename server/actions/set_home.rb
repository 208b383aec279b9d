# frozen_string_literal: true

module Fobrel
  module Actions
    # Sets the point that a reset goes back to. Earlier ones stay in the history.
    class SetHome < Deed
      # @param number [Integer] of an edition of this preset
      def initialize(preset:, person:, number:)
        @preset = preset
        @person = person
        @number = number
      end

      # @return [Models::LedgerEntry]
      def call
        @preset.lock!
        check_rights(@preset.library, @person, [@preset])
        edition = @preset.editions.find_by!(number: @number)
        raise Core::Problem, "Version #{@number} is already the baseline." if @preset.home_edition == edition
        changes.watch(Models::Preset.where(id: @preset), %w[home_edition_id]) { @preset.update!(home_edition: edition) }
        Models::Preset.settle([@preset.id])
        @preset.homes.create!(edition:, person: @person)
        write_down(@preset.library, @person, "home", "Version #{@number} is now the baseline of “#{@preset.name}”")
      end
    end
  end
end
