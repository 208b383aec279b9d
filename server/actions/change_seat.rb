# frozen_string_literal: true

module Fobrel
  module Actions
    # What is told of a seat or a template beside its plan; also what its plan begins from, which keeps what it has.
    class ChangeSeat < Deed
      WORDS = %w[
        name platform room person_id canvas_width canvas_height key_count memory_limit start_limit away
      ].freeze

      # @param wish [Hash] WORDS; "parent_id"; "aside" whether it is put aside
      def initialize(seat:, person:, wish:)
        @seat = seat
        @person = person
        @wish = wish
      end

      # @return [Models::LedgerEntry]
      def call
        @seat.library.hold
        @seat.lock!
        check
        columns = [*@wish.keys & WORDS, "put_aside_at", "parent_id", "plan_changes", "own_keys"]
        changes.watch(Models::Seat.where(id: @seat), columns) do
          begin_from if @wish.key?("parent_id")
          @seat.put_aside_at = (@wish["aside"] ? @seat.put_aside_at || Time.current : nil) if @wish.key?("aside")
          @seat.update!(@wish.slice(*WORDS))
        end
        @seat.settle
        Models::Live.tell(what: "library", library: @seat.library_id)
        write_down(
          @seat.library,
          @person,
          "seat",
          "#{@seat.template ? "The template" : "The seat"} “#{@seat.name}” changed"
        )
      end

      private

      def check
        id = @wish["person_id"] or return
        @seat.library.people.here.find(id)
      end

      # Its plan stays what it is; only what of it is its own changes. At first it takes over what the template has.
      def begin_from
        lines, keys = @seat.lines, @seat.key_of
        parent = @wish["parent_id"] && @seat.library.templates.find(@wish["parent_id"])
        @seat.parent = parent
        raise ActiveRecord::RecordInvalid, @seat unless @seat.valid?
        given = parent ? parent.lines : []
        own = lines.reject { |line| given.any? { _1.thing == line.thing } }
        @seat.lines = given + own
        @seat.key_of = (parent ? parent.key_of : {}).merge(keys)
      end
    end
  end
end
