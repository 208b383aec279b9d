# frozen_string_literal: true

module Fobrel
  module Actions
    # Writes the next edition of a preset and makes it current.
    class AddEdition < Action
      # @param preset [Models::Preset]
      # @param value [Core::Preset::Preset]
      # @param number [Integer, nil] nil takes the next one
      # @raise [Core::Problem] when the preset is locked and this person may not save it
      # @raise [Core::Preset::MissingNeed] when a picture it needs is not kept here
      def initialize(preset:, value:, person:, note: "", number: nil)
        @preset = preset
        @value = value
        @person = person
        @note = note
        @number = number
      end

      # @return [Models::Edition]
      def call
        check_lock
        needs = @value.needs.map { _1.delete_prefix("sha256:") }
        missing = needs - Models::Asset.where(sha256: needs).pluck(:sha256)
        raise Core::Preset::MissingNeed.new(@value, "sha256:#{missing.first}") if missing.any?
        edition = @preset.editions.create!(number: @number || @preset.editions.maximum(:number).to_i + 1,
          document: @value.to_h, fingerprint: @value.fingerprint, note: @note.to_s[0, 500], person: @person)
        insert_needs(edition, needs)
        @preset.update!(current_edition: edition, name: @value.name)
        edition
      end

      private

      def check_lock
        return unless @preset.locked_by
        return if @person&.memberships&.find_by(library_id: @preset.library_id)&.may?(:lock)
        raise Core::Problem, "“#{@preset.name}” is locked by #{@preset.locked_by.name}. Nothing was saved; your change is kept as your draft. Save it as a new brush."
      end

      def insert_needs(edition, needs)
        return if needs.empty?
        rows = needs.map { "(#{edition.id}, #{Models::Record.connection.quote(_1)})" }.join(", ")
        Models::Record.connection.execute("INSERT INTO edition_needs (edition_id, sha256) VALUES #{rows}")
      end
    end
  end
end
