# frozen_string_literal: true

module Fobrel
  module Actions
    # What is told of a desk or a template beside its plan; also what its plan begins from, which keeps what it has.
    class ChangeDesk < Deed
      WORDS = %w[
        name platform room person_id canvas_width canvas_height key_count memory_limit start_limit away
      ].freeze

      # @param wish [Hash] WORDS; "parent_id"; "aside" whether it is put aside
      def initialize(desk:, person:, wish:)
        @desk = desk
        @person = person
        @wish = wish
      end

      # @return [Models::HistoryEntry]
      def call
        @desk.library.hold
        @desk.lock!
        check
        columns = [*@wish.keys & WORDS, "put_aside_at", "parent_id", "plan_changes", "own_keys"]
        changes.watch(Models::Desk.where(id: @desk), columns) do
          begin_from if @wish.key?("parent_id")
          @desk.put_aside_at = (@wish["aside"] ? @desk.put_aside_at || Time.current : nil) if @wish.key?("aside")
          @desk.update!(@wish.slice(*WORDS))
        end
        @desk.settle
        Models::Live.tell(what: "library", library: @desk.library_id)
        write_down(
          @desk.library,
          @person,
          "desk",
          "#{@desk.template ? "The template" : "The desk"} “#{@desk.name}” changed"
        )
      end

      private

      def check
        id = @wish["person_id"] or return
        @desk.library.people.here.find(id)
      end

      # Its plan stays what it is; only what of it is its own changes. At first it takes over what the template has.
      def begin_from
        lines, keys = @desk.lines, @desk.key_of
        parent = @wish["parent_id"] && @desk.library.templates.find(@wish["parent_id"])
        @desk.parent = parent
        raise ActiveRecord::RecordInvalid, @desk unless @desk.valid?
        given = parent ? parent.lines : []
        own = lines.reject { |line| given.any? { _1.thing == line.thing } }
        @desk.lines = given + own
        @desk.key_of = (parent ? parent.key_of : {}).merge(keys)
      end
    end
  end
end
