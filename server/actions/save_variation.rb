# frozen_string_literal: true

module Fobrel
  module Actions
    # Saves a person's draft, or the version they look at, as a new brush; the one it came from stays as it is.
    class SaveVariation < Action
      # @param kept [String] the fingerprint of what the person saw
      # @param name [String, nil] nil takes the next number of the brush it came from
      # @param capture [Array<String>] what of the moment's state is saved along
      # @param places [Array<Hash>] sets to put it in: "set" and, where it is not the end, the
      #   "before" preset's id
      # @param order [Hash] what it is found by: "tags" (names), "category" (an id or nil), "notes";
      #   what is left out is as on the brush it came from
      def initialize(
        preset:, person:, kept:, name: nil, capture: Core::Preset::Capture::ITEMS.keys, places: [],
        order: {}
      )
        @preset = preset
        @person = person
        @kept = kept
        @capture = capture
        @name = Core::Names.clean(name.to_s)
        @places = places
        @order = order
      end

      # @return [Models::Preset]
      def call
        library = @preset.library
        library.hold
        @value = Core::Preset::Capture.only(seen, @capture)
        about = @value["about"].merge({"author" => author, "notes" => @order["notes"]}.compact)
        value = Core::Preset::Preset[@value.to_h.merge(
          "id" => SecureRandom.uuid,
          "name" => name(library),
          "about" => about
        )]
        made = CreatePreset.call(library:, value:, person: @person, note: "A variation of “#{@preset.name}”")
        made.update!(category: category(library))
        tags(library).each { made.taggings.create!(tag: _1) }
        @places.each { |place| put(made, library, place) }
        @preset.drafts.where(person: @person).destroy_all
        said = "“#{made.name}” saved as new brush from “#{@preset.name}”"
        Models::HistoryEntry.write(library, @person, "save", said, about: [made, @preset])
        made
      end

      private

      def seen
        draft = @preset.drafts.find_by(person: @person)
        return draft.as_seen(@kept) if draft
        current = @preset.current_version
        raise Models::Draft::Another unless current.fingerprint == @kept
        current.value
      end

      # Whoever made it, unless they named somebody else for it.
      def author
        said = @value["about", "author"]
        (said == @preset.current_version.value["about", "author"]) ? @person.name : said
      end

      def category(library)
        @order.key?("category") ? @order["category"] && library.categories.find(@order["category"]) : @preset.category
      end

      def tags(library)
        @order.key?("tags") ? @order["tags"].map { Models::Tag.called(library, _1) }.uniq : @preset.tags
      end

      def name(library)
        return Core::Curation::Numbering.next_name(@value.name, library.preset_names_like(@value.name)) if @name.empty?
        return @name unless library.presets.named(@name).exists?
        raise Core::Problem,
          "A brush called “#{@name}” is already here. Nothing was saved; your change is kept as your draft. Take " \
            "another name, such as “#{Core::Curation::Numbering.next_name(@name, library.preset_names_like(@name))}”."
      end

      def put(made, library, place)
        set = library.brush_sets.lock.find(place["set"])
        ids = set.preset_ids_in_order
        ids.insert(ids.index(place["before"]) || ids.size, made.id)
        set.put_in_order(ids)
      end
    end
  end
end
