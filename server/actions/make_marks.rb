# frozen_string_literal: true

module Fobrel
  module Actions
    # What a piece of work becomes: brushes, parts on a shelf, or the tip of a brush that is here.
    class MakeMarks < Deed
      # A mark that was made in full: its file, its ending, and what it was made with (for a figure kept as lines).
      Mark = Struct.new(:png, :ext, :made, keyword_init: true)

      # @param wish [Hash] "as" (brush, brushes, part, grain, tip), "name", "kind" (of FromTip::KINDS),
      #   "size", "spacing", "preset_id", "own" (whether a part lies on the person's own shelf)
      # @param marks [Array<Mark>]
      # @param work [Core::Tip::Work] what they were made of
      def initialize(library:, person:, wish:, marks:, work:)
        @library = library
        @person = person
        @wish = wish
        @marks = marks
        @work = work
      end

      # Brushes and parts that came of it, the brush whose tip it is now, and the history's line, where there is one.
      Done = Struct.new(:presets, :parts, :entry, :sentence, keyword_init: true)

      # @return [Done]
      # @raise [Core::Problem]
      def call
        @library.hold
        @marks.each { |mark| Models::Asset.keep(mark.png, mark.ext) }
        case @wish["as"]
        when "part", "grain" then parts
        when "tip" then new_tip
        else brushes_made
        end
      end

      private

      def references = @marks.map { |mark| Core::Sum.reference_to(mark.png) }

      def name
        @name ||= Core::Names.clean(@wish["name"].to_s).tap { |name|
          raise Core::Problem, "It needs a name. Nothing was saved yet; your work is kept." if name.empty?
        }
      end

      def brushes_made
        taken = @library.preset_names
        tips = (@wish["as"] == "brush") ? [@work.tip(references)] : references.map { |one| @work.tip([one]) }
        made = tips.each_with_index.map { |tip, index| brush(tip, free(taken, index)) }
        changes.came(Models::Preset.where(id: made.map(&:id)))
        told = (made.size == 1) ? "“#{made.first.name}” made" : "#{brushes(made.size)} made, “#{made.first.name}” first"
        entry = write_down(@library, @person, "make", told)
        Done.new(presets: made, parts: [], entry:, sentence: "#{sentence(made)} #{kept}")
      end

      def sentence(made)
        return "“#{made.first.name}” is a brush now." if made.size == 1
        "#{made.size} brushes were made: “#{made.first.name}” to “#{made.last.name}”."
      end

      # In an artist's words, what was kept of it.
      def kept
        kind = Core::Preset::FromTip::KINDS[@wish["kind"]]
        "Kept: #{["its tip", ("its colours" if @work.own?), kind&.kept].compact.join(", ")}."
      end

      def free(taken, index)
        several = @wish["as"] != "brush"
        if taken.any? { |one| one.casecmp?(name) } || (several && index.positive?)
          next_name = Core::Curation::Numbering.next_name(name, taken + [name])
          refuse_taken(next_name) unless several
        end
        (next_name || name).tap { |one| taken << one }
      end

      def refuse_taken(free)
        raise Core::Problem,
          "A brush called “#{name}” is already here. Nothing was saved yet. Take another name, such as “#{free}”."
      end

      def brush(tip, called)
        how = {
          author: @person.name,
          kind: @wish["kind"],
          **@wish.slice("size", "spacing", "colour", "opacity", "first", "last").transform_keys(&:to_sym)
        }
        value = Core::Preset::FromTip.build(called, tip, **how)
        CreatePreset.call(library: @library, value:, person: @person, note: "Made in the tip maker")
      end

      def parts
        made = @marks.each_with_index.map do |mark, index|
          @library.parts.create!(
            person: (@person if @wish["own"]),
            kind: Models::Part.kind_of(mark.ext, grain: @wish["as"] == "grain"),
            name: numbered(index),
            sha256: Core::Sum.of(mark.png),
            ext: mark.ext,
            made: mark.made
          )
        end
        changes.came(Models::Part.where(id: made.map(&:id)))
        what = (made.size == 1) ? "“#{made.first.name}”" : "#{made.size} parts"
        entry = write_down(@library, @person, "make", "#{what} laid on the shelf of parts")
        Done.new(
          presets: [],
          parts: made,
          entry:,
          sentence: "#{what} saved under Tips and grains."
        )
      end

      def numbered(index) = (index.zero? ? name : "#{name} #{index + 1}")[0, 100]

      # As the person's own draft: the brush itself stays as it is until they save it.
      def new_tip
        preset = presets_of(@library, [@wish["preset_id"].to_i]).first
        now = preset.drafts.find_by(person: @person)&.value || preset.current_version.value
        document = now.to_h
        value = Core::Preset::Preset[document.merge("tip" => document["tip"].merge("form" => @work.tip(references)))]
        KeepDraft.call(preset:, person: @person, value:)
        sentence = "“#{preset.name}” has a new tip, as your draft. Save it on the Bench when it is right."
        Done.new(presets: [preset], parts: [], entry: nil, sentence:)
      end
    end
  end
end
