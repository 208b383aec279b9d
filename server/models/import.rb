# frozen_string_literal: true

module Fobrel
  module Models
    # One delivery: its files, what was found in them, what was decided, what came of it.
    class Import < Record
      # What each state is called on the screen.
      STATES = {
        "open" => "coming",
        "reading" => "being read",
        "planned" => "waiting",
        "applying" => "importing",
        "applied" => "imported",
        "left" => "Unfollow"
      }.freeze

      belongs_to :library
      belongs_to :person, optional: true
      belongs_to :task, optional: true
      belongs_to :history_entry, optional: true
      has_many :files, -> { order(:id) }, class_name: "Fobrel::Models::ImportFile", dependent: :delete_all
      has_many :items, -> { order(:position) }, class_name: "Fobrel::Models::ImportItem", dependent: :delete_all
      has_many :parts, class_name: "Fobrel::Models::ImportPart", dependent: :delete_all
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..200}

      # Pictures in more than one way: which way is taken.
      #
      # @return [Hash{String => String}] "reel" or "each" by group
      def ways
        items.reorder(nil).where.not(group: nil).distinct.pluck(:group, :usual).to_h.merge(choices.fetch("ways", {}))
      end

      # The things that are meant, with pictures read the way chosen.
      #
      # @param past [Boolean] whether to read what a backup says of them, which a plan does not need
      # @return [Array<ImportItem>]
      def meant(past: false)
        ways = self.ways
        (past ? items : items.without_past).to_a.select { _1.group.nil? || ways[_1.group] == _1.way }
      end

      # The plan as things stand now.
      #
      # @param person [Person] who would take it in
      # @return [Array<Core::Curation::ImportPlan::Row>]
      def plan(person, list = meant)
        Core::Curation::ImportPlan.new(coming: list.map { coming(_1) }, here: here(person, list), choices:).rows
      end

      # Tells whether a plan is still the one that somebody looked at.
      #
      # @param rows [Array<Core::Curation::ImportPlan::Row>]
      # @return [String]
      def self.stamp(rows)
        Core::Sum.of(
          rows.map {
            [_1.coming.key, _1.state, _1.here&.key, _1.here&.fingerprint, _1.decision, _1.name].join("|")
          }.join("\n")
        )[0, 16]
      end

      # Whether all that a thing needs came with it, or is in the library already.
      #
      # @param item [ImportItem]
      def whole?(item)
        @brought ||= parts.pictures.pluck(:sha256).to_set
        missing = item.needs.map { Core::Sum.in(_1) }.reject { @brought.include?(_1) }
        !item.document.nil? && (missing - library.pictures_needed(missing)).empty?
      end

      # Takes away what is needed only until it is applied.
      def clear
        files.delete_all
        parts.delete_all
      end

      private

      def coming(item)
        kind = (item.kind == "lacking" && whole?(item)) ? "preset" : item.kind
        Core::Curation::ImportPlan::Coming.new(
          key: item.id,
          name: item.name,
          document_id: item.document_id,
          fingerprint: item.fingerprint,
          version: item.version,
          kind:,
          apart: item.backed_up?
        )
      end

      HERE = [
        :id,
        :name,
        :document_id,
        "presets.fingerprint",
        "versions.number",
        :altered,
        :locked_by_id,
        :hidden_at
      ].freeze
      private_constant :HERE

      def here(person, list)
        prints = list.filter_map(&:fingerprint)
        past = Version.joins(:preset).where(presets: {library_id:}, fingerprint: prints).pluck(
          :preset_id,
          :fingerprint
        ).group_by(&:first).transform_values { |pairs|
          pairs.map(&:last)
        }
        free = person && person.memberships.find_by(library_id:)&.may?(:lock)
        library.presets.joins("JOIN versions ON versions.id = presets.current_version_id")
          .pluck(*HERE).map do |id, name, document_id, fingerprint, version, altered, locked, hidden|
          Core::Curation::ImportPlan::Here.new(
            key: id,
            name:,
            document_id:,
            fingerprint:,
            version:,
            altered:,
            locked: !!locked && !free,
            hidden: !hidden.nil?,
            past: past[id] || []
          )
        end
      end
    end
  end
end
