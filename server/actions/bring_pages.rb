# frozen_string_literal: true

module Fobrel
  module Actions
    # Keeps what was brought to the tip maker: as a new piece of work, or as further pages of one.
    class BringPages < Action
      # A page that is brought: what was read of it, the file it was read from, its name, and the words of a text or
      # figure that makes it.
      Page = Struct.new(:read, :file, :name, :made, keyword_init: true)

      # @param work [Models::Work, nil] nil begins one
      # @param pages [Array<Page>]
      # @param replaces [Integer, nil] the place, from 0, of the page whose place the only one takes
      # @param fresh [Boolean] false where it goes on with the step before, see Models::Work#step
      def initialize(library:, person:, work:, pages:, replaces: nil, fresh: true)
        @library = library
        @person = person
        @work = work
        @pages = pages
        @replaces = replaces
        @fresh = fresh
      end

      # @return [Models::Work]
      def call
        @work&.lock!
        state = @work&.state
        @work ||= @library.works.create!(person: @person, name: Models::Work.called(@pages.first.name))
        kept = @pages.map { |page|
          Models::WorkPage.keep(@work, page.read, page.file, name: page.name, made: page.made)
        }
        @work.step(state ? changed(state, kept) : begun(kept), fresh: @fresh)
        @work
      end

      private

      def begun(kept)
        state = Core::Tip::Work.begin(kept.map(&:page))
        # What is made here needs nothing taken off, and is one mark.
        state["tone"] = {"even" => false, "white" => 255} if kept.first.made
        {"pages" => kept.map(&:id), **state}
      end

      def changed(state, kept)
        pages = state["pages"].dup
        @replaces ? pages[@replaces] = kept.first.id : pages.concat(kept.map(&:id))
        if pages.size > Core::Tip::Work::MOST
          raise Core::Problem,
            "A piece of work has #{Core::Tip::Work::MOST} pages at the most. Nothing was added. Begin another."
        end
        {**state, "pages" => pages}
      end
    end
  end
end
