# frozen_string_literal: true

module Fobrel
  module Jobs
    # Makes in full what a piece of work becomes.
    class SaveWork < Job
      def self.short?(_about) = true

      private

      def work(about)
        work = Models::Work.find(about.fetch("work"))
        state = about.fetch("state")
        pages = work.pages_of(state)
        wish = about.fetch("wish")
        marks = made(state, pages, wish)
        done = Actions::MakeMarks.call(
          library: work.library,
          person: @task.person,
          wish:,
          marks:,
          work: Core::Tip::Work.new(state, pages.map(&:page))
        )
        made = {"presets" => done.presets.map(&:id), "parts" => done.parts.map(&:id), "entry" => done.entry&.id}
        @task.update!(about: about.merge("made" => made))
        PaintStrips.enqueue(made["presets"]) if done.entry && made["presets"].any?
        @task.finish(done.sentence)
      end

      def made(state, pages, wish)
        plain = pages.map(&:to_a)
        frames = Core::Tip::Work.new(state, pages.map(&:page)).frames
        return grains(state, plain, pages[frames.first["page"]], wish) if wish["as"] == "grain"
        return [lines(pages.first)] if wish["as"] == "part" && frames == [whole] && pages.first.lines?
        tell = progress
        marks = frames.each_with_index.map do |frame, index|
          tell.call(index, frames.size, "Making mark #{index + 1} of #{frames.size}")
          mark(state, plain, index, pages[frame["page"]].file, wish)
        end
        return marks unless wish["as"] == "brushes" && wish["twin"]
        marks.flat_map { |one| [one, twin(one)] }
      end

      def mark(state, plain, index, file, wish)
        made = Core::Tip::ApartWork.make(state, plain, index, file, kind: wish["kind"])
        Actions::MakeMarks::Mark.new(png: made.png, ext: "png")
      end

      # Nothing was chosen of the page, and nothing turned.
      def whole = Core::Tip::Work::FRAME.merge("page" => 0, "area" => {})

      # What is lines stays lines; a figure with its parameters.
      def lines(page) = Actions::MakeMarks::Mark.new(png: page.lines, ext: "svg", made: page.made)

      def grains(state, plain, page, wish)
        [false, *(true if wish["twin"])].map do |twin|
          Actions::MakeMarks::Mark.new(png: Core::Tip::ApartWork.grain(state, plain, page.file, twin:), ext: "png")
        end
      end

      def twin(mark) = Actions::MakeMarks::Mark.new(png: Core::Tip::ApartWork.twin(mark.png), ext: "png")
    end
  end
end
