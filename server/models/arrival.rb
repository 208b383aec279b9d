# frozen_string_literal: true

module Fobrel
  module Models
    # One delivery: its files, what was found in them, what was decided, what came of it.
    class Arrival < Record
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
      belongs_to :ledger_entry, optional: true
      has_many :files, -> { order(:id) }, class_name: "Fobrel::Models::ArrivalFile", dependent: :delete_all
      has_many :items, -> { order(:position) }, class_name: "Fobrel::Models::ArrivalItem", dependent: :delete_all
      has_many :parts, class_name: "Fobrel::Models::ArrivalPart", dependent: :delete_all
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..200}

      # Pictures in more than one way: which way is taken.
      #
      # @return [Hash{String => String}] "reel" or "each" by group
      def ways
        items.reorder(nil).where.not(group: nil).distinct.pluck(:group, :usual).to_h.merge(choices.fetch("ways", {}))
      end

      # The things that are meant, with pictures taken in the way chosen.
      #
      # @param past [Boolean] whether to read what a backup says of them, which a plan does not need
      # @return [Array<ArrivalItem>]
      def meant(past: false)
        ways = self.ways
        (past ? items : items.without_past).to_a.select { _1.group.nil? || ways[_1.group] == _1.way }
      end

      # The plan as things stand now.
      #
      # @param person [Person] who would take it in
      # @return [Array<Core::Curation::IntakePlan::Row>]
      def plan(person, list = meant)
        Core::Curation::IntakePlan.new(coming: list.map { coming(_1) }, here: here(person, list), choices:).rows
      end

      # Tells whether a plan is still the one that somebody looked at.
      #
      # @param rows [Array<Core::Curation::IntakePlan::Row>]
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
      # @param item [ArrivalItem]
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
        Core::Curation::IntakePlan::Coming.new(
          key: item.id,
          name: item.name,
          document_id: item.document_id,
          fingerprint: item.fingerprint,
          edition: item.edition,
          kind:,
          apart: item.backed_up?
        )
      end

      HERE = [
        :id,
        :name,
        :document_id,
        "presets.fingerprint",
        "editions.number",
        :altered,
        :locked_by_id,
        :hidden_at
      ].freeze
      private_constant :HERE

      def here(person, list)
        prints = list.filter_map(&:fingerprint)
        past = Edition.joins(:preset).where(presets: {library_id:}, fingerprint: prints).pluck(
          :preset_id,
          :fingerprint
        ).group_by(&:first).transform_values { |pairs|
          pairs.map(&:last)
        }
        free = person && person.memberships.find_by(library_id:)&.may?(:lock)
        library.presets.joins("JOIN editions ON editions.id = presets.current_edition_id")
          .pluck(*HERE).map do |id, name, document_id, fingerprint, edition, altered, locked, hidden|
          Core::Curation::IntakePlan::Here.new(
            key: id,
            name:,
            document_id:,
            fingerprint:,
            edition:,
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
