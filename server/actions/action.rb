# frozen_string_literal: true

module Fobrel
  module Actions
    # One thing a person does, whole or not at all. What is more than one statement is written here.
    class Action
      # Raised when somebody else was faster; nothing was overwritten.
      class Overtaken < Core::Problem; end

      # So often it is begun anew when two waited for each other and the database ended one of them.
      TRIES = 3

      # Runs the action in one transaction.
      def self.call(...)
        outermost = !Models::Record.connection.transaction_open?
        tries = 0
        begin
          Models::Record.transaction(requires_new: true) { new(...).call }
        rescue ActiveRecord::Deadlocked
          raise unless outermost && (tries += 1) < TRIES
          retry
        end
      end

      # Has the actions within say how far they are.
      #
      # @param tell [#call] with what is done and the total
      def self.telling(tell, &) = Core::Meanwhile.set(:fobrel_telling, tell, &)

      # Presets of this library only, whatever was asked for.
      #
      # @return [Array<Models::Preset>] in the order asked for
      def self.presets_of(library, ids)
        found = library.presets.where(id: ids).includes(:current_version, :baseline_version).index_by(&:id)
        missing = ids.map(&:to_i).uniq - found.keys
        if missing.any?
          raise Core::Problem,
            "#{missing.size} of the picked brushes are no longer in this library. Nothing was changed. Reload and " \
              "pick again."
        end
        ids.map(&:to_i).uniq.map { found[_1] }
      end

      private

      # Whoever swaps, hides or sets a baseline for brushes asks here: what is locked and what stands in a start
      # plan is for those who may lock and send to desks.
      #
      # @param plans [Boolean] whether start-up plans that hold one of them would change
      # @raise [AddVersions::Locked, Core::Problem]
      def check_rights(library, person, presets, plans: false)
        member = person&.memberships&.find_by(library:)
        locked = presets.select(&:locked_by_id)
        raise AddVersions::Locked, locked if locked.any? && !member&.may?(:lock)
        return if !plans || member&.may?(:send_to_desk)
        desk = Models::Desk.joins(:items).find_by(start_items: {preset_id: presets.map(&:id)}) or return
        raise Core::Problem,
          "One of these brushes is in the start-up plan of #{desk.name}, which only a lead changes. Nothing was " \
            "changed. Ask a lead, or leave it out."
      end

      # Says how far this is, where somebody wants to know.
      def tell_of(done, total) = Core::Meanwhile[:fobrel_telling]&.call(done, total)

      def presets_of(library, ids) = self.class.presets_of(library, ids)

      # What became of an order made by hand.
      def reordered(name, was, now)
        added = (now - was).size
        gone = (was - now).size
        parts = [("#{added} added to" if added.positive?), ("#{gone} taken out of" if gone.positive?)].compact
        "#{parts.empty? ? "New order in" : parts.join(", ")} “#{name}”"
      end

      def brushes(count) = "#{count} #{(count == 1) ? "brush" : "brushes"}"
    end
  end
end
