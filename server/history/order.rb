# frozen_string_literal: true

module Fobrel
  module History
    # An order made by hand as the history keeps it, and how it goes back beside what others did to it since.
    #
    #   Order.of(set)   # => [{"preset" => 4, "section" => "Nibs"}, {"preset" => 9, "section" => nil}]
    class Order
      # @param holder [Models::BrushSet, Models::Bundle, Models::Desk]
      # @return [Array<Hash>] preset and section of each place
      def self.of(holder)
        sections = holder.respond_to?(:section_by_preset) ? holder.section_by_preset : {}
        holder.preset_ids_in_order.map { {"preset" => _1, "section" => sections[_1]} }
      end

      # @param change [Changes::Change] of kind :order
      # @param now [Array<Hash>] as .of gives it
      # @param there [Array<Integer>] presets that are still in the library
      # @param later [Proc] whether a later deed touched what has this name, see Touched
      def initialize(change, now:, there:, later:)
        @change = change
        @row = "#{change.table}:#{change.key}"
        @was, @left, @sections = [change.before["items"], change.after["items"], now].map do |items|
          items.to_h { [_1["preset"], _1["section"]] }
        end
        @before, @after, @now = [@was, @left, @sections].map(&:keys)
        @there = there
        @later = later
      end

      # What came with the deed goes, what went comes back, each where it stood; what others added stays behind
      # what it stands behind. An order that somebody made since is kept.
      #
      # @return [Array<Integer>]
      def ids
        kept = @now - gone
        list = reordered? ? kept : as_before(kept)
        back.each { |id| insert(list, id) }
        list
      end

      # @return [Hash{Integer => String}]
      def sections = ids.to_h { |id| [id, (headed.include?(id) || back.include?(id)) ? @was[id] : @sections[id]] }

      # @return [Boolean] whether somebody put what the deed had put in order in another order since
      def kept? = moved? && reordered?

      # @return [Array<Integer>] brushes whose place or heading stays, though the deed changed it
      def stay
        (@was.keys | @left.keys).reject do |id|
          same = @was.key?(id) == @left.key?(id) && @was[id] == @left[id]
          same || as_it_was?(id)
        end
      end

      private

      # Whether a brush is where it was before the deed, or out as it was.
      def as_it_was?(id) = @was.key?(id) ? ids.include?(id) && sections[id] == @was[id] : !ids.include?(id)

      def place(id) = Touched.place(@change.table, @change.key, id)

      def later?(id) = @later[place(id)] || @later["#{place(id)}:section"]

      def gone = @gone ||= ((@after - @before) & @now).reject { later?(_1) }

      def back = @back ||= ((@before - @after) - @now).select { @there.include?(_1) && !later?(_1) }

      # Those whose heading goes back.
      def headed
        @headed ||= (@before & @after & @now).select { |id| @sections[id] == @left[id] && !later?(id) }
      end

      def moved? = (@before & @after) != (@after & @before)

      def reordered? = @later["#{@row}:order"] || (@now & @after) != (@after & @now)

      # Those that the deed saw, in the places where such stand, in their old order.
      def as_before(kept)
        ours = kept & @before & @after
        turn = (@before & ours).each
        kept.map { ours.include?(_1) ? turn.next : _1 }
      end

      # Behind what it stood behind.
      def insert(list, id)
        ahead = @before.take(@before.index(id)).reverse.find { list.include?(_1) }
        list.insert(ahead ? list.index(ahead) + 1 : 0, id)
      end
    end
  end
end
