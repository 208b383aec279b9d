# frozen_string_literal: true

module Fobrel
  module Actions
    # Writes picked brushes as plain open files: a kit, or an inventory in one table.
    class ExportKit < Action
      KINDS = %w[kit inventory].freeze
      COLUMNS = %w[name size edition family tags traits author licence fingerprint used_in changed notes].freeze

      # @param kind [String] one of KINDS
      # @param ids [Array<Integer>] in the order wanted
      def initialize(library:, person:, ids:, kind:)
        @library = library
        @person = person
        @ids = ids
        @kind = kind
      end

      # @return [String] the file's bytes
      def call
        presets = presets_of(@library, @ids)
        raise Core::Problem, "Nothing is picked. Pick the brushes to export first." if presets.empty?
        write_down(@library, @person, "export", "#{brushes(presets.size)} exported as #{(@kind == "kit") ? "a kit" : "an inventory"}")
        (@kind == "kit") ? kit(presets) : inventory(presets)
      end

      private

      def kit(presets)
        values = presets.map { _1.current_edition.value }
        Core::Package::Kit.zip(values, assets: Models::Asset::Bytes, strips: presets.zip(values).to_h { |preset, value| [value.id, Models::Strip.png_for(preset.fingerprint, "wall") { value }] })
      end

      def inventory(presets)
        tags = Models::Tagging.where(preset: presets).joins(:tag).order("tags.name").pluck(:preset_id, "tags.name").group_by(&:first)
        families = @library.families.pluck(:id, :name).to_h
        CSV.generate do |csv|
          csv << COLUMNS
          presets.each do |preset|
            row = [preset.name, preset.size, preset.current_edition.number, families[preset.family_id], tags.fetch(preset.id, []).map(&:last).join(", "), preset.traits.join(", "), preset.author, preset.licence,
              preset.fingerprint, DestroyPresets.places(preset).join(", "), preset.changed_at&.iso8601, preset.notes]
            csv << row.map { Core::Package::Kit.safe(_1) }
          end
        end
      end
    end
  end
end
