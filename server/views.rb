# frozen_string_literal: true

module Fobrel
  # How things look in JSON: plain hashes, in the shapes of openapi.yaml. Here is what several views show; each of
  # the larger ones has a file of its own in server/views.
  #
  #   Views.entry(entry)              # a line of the history
  #   Views::Bundles.bundle(bundle)   # a bundle with its releases
  module Views
    class << self
      # What the screen says that is the same for all brushes and libraries.
      #
      # @return [Hash] as openapi.yaml describes Words
      def words
        listed = ->(titles) { titles.map { |name, title| {name:, title:} } }
        {
          **Core::Preset::Sheet.words,
          glossary: Core::Glossary.entries.map(&:to_h),
          looks: {colours: Models::Looks::COLOURS, shapes: Models::Looks::SHAPES},
          plan: {
            states: listed[Core::Curation::ImportPlan::STATES],
            decisions: listed[Core::Curation::ImportPlan::DECISIONS]
          },
          imports: listed[Models::Import::STATES]
        }
      end

      # How far a piece of long work is.
      #
      # @param task [Models::Task]
      # @return [Hash] as openapi.yaml describes Task
      def task(task)
        {
          id: task.id,
          kind: task.kind,
          state: task.state,
          done: task.done,
          total: task.total,
          message: task.message,
          import: task.about["import"],
          made: task.about["made"]&.slice("presets", "parts"),
          entry: (task.about.dig("made", "entry") || task.about["entry"])&.then { |id|
            entry(Models::HistoryEntry.find(id))
          },
          result: task.about["result"],
          before: task.before,
          at: task.updated_at.iso8601
        }
      end

      # A line of the history.
      #
      # @param entry [Models::HistoryEntry]
      # @return [Hash] as openapi.yaml describes Entry
      def entry(entry)
        {
          **entry.slice(:id, :kind, :summary),
          by: entry.person.name,
          at: entry.created_at.iso8601,
          via: entry.via,
          place: entry.place,
          undone: !entry.undone_at.nil?,
          undoable: entry.undoable?
        }
      end

      # A tag with how many brushes carry it.
      #
      # @param tag [Models::Tag]
      # @param count [Integer]
      # @return [Hash] as openapi.yaml describes Tag
      def tag(tag, count)
        {**tag.slice(:id, :name, :colour, :shape), synonyms: tag.synonyms.map(&:name).sort, count:}
      end

      # A category or a status.
      #
      # @param group [Models::Category, Models::Status]
      # @return [Hash] as openapi.yaml describes Category and Status
      def group(group) = group.attributes.slice("id", "name", "parent_id", "colour", "shape", "position")

      # Sets with their brushes in order; of those that fill themselves, how many they find.
      #
      # @param sets [Array<Models::BrushSet>]
      # @param person [Models::Person] who looks
      # @return [Array<Hash>] as openapi.yaml describes BrushSet
      def sets(sets, person)
        shown = Models::SetItem.where(brush_set: sets).joins(:preset).merge(Models::Preset.shown)
        places = shown.order(:position).pluck(:brush_set_id, :preset_id, :section).group_by(&:first)
        sets.map do |set|
          here = places.fetch(set.id, [])
          {
            **set.slice(:id, :name, :query),
            preset_ids: here.map { |_, preset_id| preset_id },
            sections: here.filter_map { |_, preset_id, section| [preset_id.to_s, section] if section }.to_h,
            count: set.automatic? ? set.search(person).presets.count : here.size,
            **asked(set)
          }
        end
      end

      # The terms of a search, each with the line that is left without it.
      #
      # @param query [Core::Curation::Query]
      # @return [Array<Hash>] as openapi.yaml describes Term
      def terms(query)
        query.terms.map do |term|
          {**term.to_h, words: term.to_s, without: query.without(term).to_s}
        end
      end

      # What went out.
      #
      # @param export [Models::Export]
      # @return [Hash] as openapi.yaml describes Export
      def export(export)
        {
          **export.slice(:id, :kind, :name, :file, :goes_to, :count, :size, :sha256),
          said: Actions::ExportBrushes::SAID.fetch(export.kind),
          by: export.person.name,
          at: export.created_at.iso8601,
          waits_until: export.waits_until&.iso8601,
          release: export.release && {bundle: export.release.bundle.name, number: export.release.number}
        }
      end

      private

      # What a set that fills itself asks for, and the line that finds a set's brushes.
      def asked(set)
        query = Core::Curation::Query
        {
          terms: set.automatic? ? terms(query.parse(set.query)) : [],
          line: set.query || query.new([], []).toggled("set", set.name).to_s
        }
      rescue Core::Curation::Query::Unclear
        {terms: [], line: set.query} # from an earlier version
      end
    end
  end
end
