# frozen_string_literal: true

module Fobrel
  module Views
    # Pieces of work in the tip maker.
    module Works
      class << self
        # A line of the list.
        #
        # @param work [Models::Work]
        # @return [Hash] as openapi.yaml describes Work
        def line(work)
          page = work.state["pages"].first
          {id: work.id, name: work.name, at: work.updated_at.iso8601, page:, pages: work.state["pages"].size}
        end

        # With all that the tip maker shows of it.
        #
        # @param work [Models::Work]
        # @return [Hash] as openapi.yaml describes WorkDetail
        def detail(work)
          state = work.state
          rows = work.pages_of(state, work.pages.plain)
          whole = Core::Tip::Work.new(state, rows.map(&:page))
          {
            **line(work),
            step: work.place,
            room: work.room,
            state: {"pages" => state["pages"], **whole.state},
            sheets: rows.each_with_index.map { |row, index| sheet(row, whole.marks(index)) }
          }
        end

        private

        # What is written or drawn here is one mark, however many pieces it has.
        def sheet(row, marks)
          facts = row.facts
          {
            id: row.id,
            name: row.name,
            **facts.slice("width", "height", "dark", "coloured", "see_through").transform_keys(&:to_sym),
            white: facts["white"],
            made: row.made,
            marks: (row.made ? [] : marks).map { |mark| {parts: mark.parts, box: mark.box.map { _1.round(5) }} }
          }
        end
      end
    end
  end
end
