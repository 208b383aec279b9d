# frozen_string_literal: true

module Fobrel
  module Actions
    # Gives many brushes new names by rules, each as a version.
    class RenamePresets < Deed
      CLASHES = {
        "empty" => "a brush needs one",
        "too long" => "it is longer than 200 characters",
        "taken" => "another brush here has it",
        "twice" => "two of these brushes would have it"
      }.freeze

      # @param rules [Hash] as Core::Curation::Renaming takes them
      def initialize(library:, person:, ids:, rules:)
        @library = library
        @person = person
        @ids = ids
        @rules = rules
      end

      # What would happen, without changing anything.
      #
      # @return [Array<Array(Models::Preset, Core::Curation::Renaming::Row)>]
      def plan
        presets = presets_of(@library, @ids)
        tags = Models::Tagging.where(preset: presets).joins(:tag).order("tags.name").pluck(
          :preset_id,
          "tags.name"
        ).group_by(&:first).transform_values {
          _1.map(&:last)
        }
        taken = @library.presets.where.not(id: presets.map(&:id)).pluck(:name)
        presets.zip(
          Core::Curation::Renaming.new(@rules).plan(
            presets.map(&:name),
            presets.map {
              tags.fetch(_1.id, [])
            },
            taken
          )
        )
      end

      # @return [Models::HistoryEntry]
      # @raise [Core::Problem] when a new name is in the way of another
      def call
        @library.hold
        rows = new_names
        RevisePresets.new(
          library: @library,
          person: @person,
          rows:,
          as: "versions",
          kind: "rename",
          deed: "renamed"
        ).revise(changes)
        drafts = Models::Draft.where(preset: rows.map(&:preset))
        tuned = drafts.distinct.pluck(:preset_id)
        changes.watch(drafts, %w[base_version_id document]) do
          rows.each { |row| carry_drafts(row) if tuned.include?(row.preset.id) }
        end
        write_down(@library, @person, "rename", "#{brushes(rows.size)} #{said(rows)}")
      end

      private

      def new_names
        changed = plan.reject { |_, row| row.from == row.to }
        clash = changed.map(&:last).find(&:clash)
        if clash
          raise Core::Problem,
            "“#{clash.to}” cannot be a new name: #{CLASHES.fetch(clash.clash)}. Nothing was renamed. Take another."
        end
        changed.map do |preset, row|
          value = preset.current_version.value
          # The new name was checked with the rules; nothing else is another.
          RevisePresets::Row.new(preset, value, Core::Preset::Preset.restore(value.to_h.merge("name" => row.to)))
        end
      end

      def said(rows)
        return "renamed" if rows.size > 1
        was, now = [rows.first.before, rows.first.after].map { _1.name.truncate(40) }
        "renamed: “#{was}” is “#{now}” now"
      end

      # Nobody's draft is behind because of a new name: those that stand on the version before go
      # along to the one with it.
      def carry_drafts(row)
        preset = row.preset.reload
        before = preset.versions.where("number < ?", preset.current_version.number).last
        preset.drafts.where(base_version: before).each do |draft|
          document = draft.document
          document = document.merge("name" => row.after.name) if document["name"] == row.before.name
          draft.update!(document:, base_version: preset.current_version)
        end
      end
    end
  end
end
