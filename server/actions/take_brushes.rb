# frozen_string_literal: true

module Fobrel
  module Actions
    # Takes brushes of one library into another, as they are now. Each remembers where it is from.
    class TakeBrushes < Deed
      # @param library [Models::Library] where they go
      # @param presets [Array<Models::Preset>] of a library that the person sees
      def initialize(library:, person:, presets:)
        @library = library
        @person = person
        @presets = presets
      end

      # Brushes that came, names of those that are here already, and the history's line.
      Taken = Struct.new(:made, :here, :entry)

      # @return [Taken]
      # @raise [Core::Problem] where there is none to take
      def call
        @library.hold
        known = @library.presets.where(document_id: @presets.map(&:document_id)).pluck(:document_id, :name).to_h
        there, fresh = @presets.partition { |one| known.key?(one.document_id) }
        raise Core::Problem, "#{said(known.values)} here already. Nothing was taken." if fresh.empty?
        names = @library.preset_names
        made = fresh.map { |preset| self.class.take(@library, @person, preset, names, changes) }
        changes.came(Models::Preset.where(id: made))
        changes.came(Models::Tagging.where(preset: made))
        entry = write_down(@library, @person, "take", "#{brushes(made.size)} taken from “#{from.name}”")
        Taken.new(made, there.map(&:name), entry)
      end

      # One brush, under its name or the next free one, with its tags.
      #
      # @param names [Array<String>] that are taken; its own is added
      # @param changes [History::Changes] of the deed, for tags that are new here
      # @return [Models::Preset]
      def self.take(library, person, preset, names, changes)
        version = preset.current_version
        taken = names.any? { |one| one.casecmp?(preset.name) }
        name = taken ? Core::Curation::Numbering.next_name(preset.name, names) : preset.name
        names << name
        value = Core::Preset::Preset.restore(version.document.merge("name" => name))
        note = "Taken from “#{preset.library.name}”, version #{version.number}"
        made = CreatePreset.call(library:, value:, person:, note:, origin: "received")
        made.update!(came_from: came_from(preset, version))
        preset.tags.each do |tag|
          Models::Tag.called(library, tag.name, changes:).taggings.find_or_create_by!(preset: made)
        end
        made
      end

      # @return [Hash] where a brush is from, as `presets.came_from` keeps it
      def self.came_from(preset, version)
        {
          preset: preset.id,
          library: preset.library_id,
          library_name: preset.library.name,
          name: preset.name,
          version: version.number,
          fingerprint: version.fingerprint
        }
      end

      private

      def from = @presets.first.library

      def said(names)
        return "“#{names.first}” is" if names.size == 1
        "All #{names.size} are"
      end
    end
  end
end
