# frozen_string_literal: true

module Fobrel
  module Actions
    # Writes the next version of each of several presets and makes it current. The only way that
    # versions come about.
    class AddVersions < Action
      # Raised when a brush is locked and this person may not save its next version.
      class Locked < Core::Problem
        # @param presets [Array<Models::Preset>] those that are locked
        def initialize(presets)
          first = presets.first
          @called = "“#{first.name}” is locked by " \
            "#{first.locked_by.name}#{" (and #{presets.size - 1} more)" if presets.size > 1}."
          super("#{@called} Nothing was changed. Leave it out, or ask a lead to unlock it.")
        end

        # @param rest [String] what was kept and what to do, where that is more than usual
        # @return [Core::Problem]
        def but(rest) = Core::Problem.new("#{@called} #{rest}")
      end

      # A preset, its new settings, a note; the version's number, time and person's id where it
      # brings them.
      Item = Struct.new(:preset, :value, :note, :number, :at, :by)

      # @param items [Array<Item>] each preset once
      # @raise [Locked]
      # @raise [Core::Preset::MissingNeed] when a picture that one needs is not kept here
      def initialize(items:, person:)
        @items = items
        @person = person
      end

      # @return [Array<Integer>] the versions' ids, in the order of the items
      def call
        return [] if @items.empty?
        check_locks
        check_needs
        ids = insert_versions
        insert_needs(ids)
        @items.each_with_index { |item, index| item.preset.current_version_id = ids[index] }
        point_to(ids)
        Models::Preset.settle_to(
          @items.map { |item|
            Models::Preset.columns_of(item.value, @prints.fetch(item.preset.id)).merge(
              id: item.preset.id,
              changed_at: item.at || @now
            )
          }
        )
        tell
        ids
      end

      private

      # Whoever has one of them on the Bench looks at once.
      def tell
        few = @items.first(TOLD).map { |item| item.preset.id }
        Models::Live.tell(what: "version", library: @items.first.preset.library_id, presets: few, by: @person&.id)
      end

      TOLD = 50
      private_constant :TOLD

      def check_locks
        locked = @items.map(&:preset).select(&:locked_by_id)
        return if locked.empty? || @person&.memberships&.find_by(library_id: locked.first.library_id)&.may?(:lock)
        raise Locked, locked
      end

      def check_needs
        sums = @items.flat_map { |item| sums(item) }.uniq
        known = Models::Asset.where(sha256: sums).pluck(:sha256).to_set { |sum| Core::Sum.reference(sum) }
        @items.each do |item|
          missing = Core::Preset::MissingNeed.of(item.value, known)
          raise missing if missing
        end
      end

      def sums(item) = item.value.needs.map { Core::Sum.in(_1) }

      def insert_versions
        @now = Time.current
        @prints = @items.to_h { [_1.preset.id, _1.value.fingerprint] }
        last = Models::Version.where(preset_id: @items.map { _1.preset.id }).group(:preset_id).maximum(:number)
        rows = @items.map do |item|
          {
            preset_id: item.preset.id,
            number: item.number || last.fetch(item.preset.id, 0) + 1,
            document: item.value.to_h,
            fingerprint: @prints.fetch(item.preset.id),
            note: item.note.to_s[0, 500],
            person_id: item.by || @person&.id,
            created_at: item.at || @now
          }
        end
        rows.each_slice(500).with_index.flat_map { |some, index|
          tell_of(index * 500, rows.size)
          Models::Version.insert_all!(some, returning: %w[id preset_id]).to_a
        }.to_h { [_1["preset_id"], _1["id"]] }.values_at(
          *@items.map {
            _1.preset.id
          }
        )
      end

      def insert_needs(ids)
        rows = @items.each_with_index.flat_map { |item, index|
          sums(item).map {
            "(#{ids[index]}, #{Models::Record.connection.quote(_1)})"
          }
        }
        rows.each_slice(2000) {
          Models::Record.connection.execute("INSERT INTO version_needs (version_id, sha256) VALUES #{_1.join(", ")}")
        }
      end

      def point_to(ids)
        pairs = @items.each_with_index.map { |item, index| "(#{item.preset.id}, #{ids[index]})" }
        pairs.each_slice(2000) {
          Models::Record.connection.execute(
            "UPDATE presets SET current_version_id = v.version FROM (VALUES #{_1.join(", ")}) AS v(id, version) " \
              "WHERE presets.id = v.id"
          )
        }
      end
    end
  end
end
