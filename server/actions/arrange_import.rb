# frozen_string_literal: true

module Fobrel
  module Actions
    # Puts what an import brought where it belongs: into sets, a bundle, a category, under tags; with the export
    # templates and, of a backup, all the rest. A part of ImportBrushes.
    class ArrangeImport < Action
      # Something that came, the brush that stands for it here (nil where it was left out), whether that is new,
      # whether it was here exactly so, and whether its own tags count.
      Brush = Struct.new(:item, :id, :fresh, :identical, :own_tags)
      # How many were hidden, and a sentence for each thing that was left out.
      Outcome = Struct.new(:put_away, :notes)

      # @param changes [History::Changes] of the deed that this is part of
      # @param brushes [Array<Brush>]
      def initialize(import:, person:, changes:, brushes:)
        @import = import
        @library = import.library
        @person = person
        @changes = changes
        @brushes = brushes
        @where = import.choices.fetch("where", {})
        @by_document = brushes.to_h { [_1.item.document_id, _1.id] }
        @done = Outcome.new(0, [])
      end

      # @return [Outcome]
      def call
        ids = @brushes.filter_map(&:id).uniq
        fill_sets unless @where["sets"] == false
        put_in_set(ids)
        restore if @import.words["library"]
        take_bundle(ids)
        hang_on_category
        hang_tags
        take_export_templates
        @done
      end

      private

      # --- sets ------------------------------------------------------------------------------------

      # The sets that come with a package: what is missing is added at their ends.
      def fill_sets
        unseen, groups = @import.words.fetch("sets", []).partition { named(_1["name"]).empty? }
        tell_of(unseen) if unseen.any?
        (groups - make_sets(groups)).each { |group| group["query"] ? standing_set(group) : add_to_set(group) }
      end

      def tell_of(unseen)
        what = (unseen.size == 1) ? "A set whose name" : "#{unseen.size} sets whose names"
        were = (unseen.size == 1) ? "was" : "were"
        @done.notes << "#{what} cannot be seen #{were} left out; the brushes were imported."
      end

      # Those that are not here, all in a few questions: a package may have thousands.
      #
      # @return [Array<Hash>] the groups that are done with
      def make_sets(groups)
        here = @library.brush_sets.pluck(:name).to_set(&:downcase)
        fresh = groups.reject { _1["query"] }.map { |group| [named(group["name"])[0, 100], group] }
        fresh = fresh.uniq { |name, _| name.downcase }.reject { |name, _| here.include?(name.downcase) }
        fresh.each_slice(1000).flat_map do |some|
          made = insert_sets(some.map(&:first))
          @changes.came(Models::BrushSet.where(id: made.values))
          some = some.select { |name, _| made.key?(name) }
          fill(some.map { |name, group| [made[name], group] })
          @changes.came(Models::SetItem.where(brush_set_id: made.values))
          some.map(&:last)
        end
      end

      # @return [Hash{String => Integer}] ids by name
      def insert_sets(names)
        now = Time.current
        rows = names.map { |name| {library_id: @library.id, name:, created_at: now, updated_at: now} }
        Models::BrushSet.insert_all(rows, returning: %w[name id]).rows.to_h
      end

      def fill(pairs)
        rows = pairs.flat_map do |set, group|
          headings = sections(group)
          here(group).each_with_index.map do |preset_id, position|
            {brush_set_id: set, preset_id:, position:, section: headings[preset_id].presence}
          end
        end
        rows.each_slice(5000) { Models::SetItem.insert_all!(_1) }
      end

      def standing_set(group)
        return if set_called(group["name"])
        Core::Curation::Query.parse(group["query"])
        made(@library.brush_sets.create!(name: named(group["name"])[0, 100], query: group["query"]))
      rescue Core::Curation::Query::Unclear => e
        @done.notes << "The set “#{group["name"]}” was left out: #{e.message}"
      end

      def add_to_set(group)
        if set_called(group["name"])&.automatic?
          @done.notes << "The set “#{group["name"]}” fills itself from a search here, so nothing was put there."
          return
        end
        set = found_set(group["name"])
        was = set.preset_ids_in_order
        added = here(group) - was
        return if added.empty?
        headings = set.section_by_preset.merge(sections(group).slice(*added))
        @changes.watch_order(set) { set.put_in_order(was + added, headings) }
      end

      # The set that was chosen: everything of the import at a place, or in place of what it holds.
      def put_in_set(ids)
        return if @where["set"].to_s.strip.empty? || ids.empty?
        set = found_set(@where["set"])
        was = set.preset_ids_in_order
        rest = was - ids
        after = (@where["mode"] == "replace") ? ids : placed(rest, ids)
        return if after == was
        @changes.watch_order(set) { set.put_in_order(after) }
        put_away(was - after) if @where["mode"] == "replace"
      end

      def placed(rest, ids)
        at = {"start" => 0, "end" => rest.size}.fetch(@where.fetch("place", "end")) do |place|
          rest.index(place.to_i) || rest.size
        end
        rest.dup.insert(at, *ids)
      end

      # What lost its place is hidden, unless it is used somewhere else.
      def put_away(ids)
        used = Models::Ordered.holders.each_value.flat_map do |model|
          model.reflect_on_association(:items).klass.where(preset_id: ids).pluck(:preset_id)
        end
        going = Models::Preset.where(id: ids - used)
        @done.put_away += @changes.watch(going, %w[hidden_at hidden_by_id]) { going.hide(@person) }
      end

      def found_set(name)
        set = set_called(name)
        if set&.automatic?
          raise Core::Problem,
            "“#{set.name}” is an automatic set, so nothing can be added to it by hand. Nothing was imported. Choose " \
              "another set."
        end
        set || made(@library.brush_sets.create!(name: named(name)[0, 100]))
      end

      def set_called(name) = @library.brush_sets.named(named(name)[0, 100]).first

      def named(name) = Core::Names.clean(name)

      def made(record) = record.tap { @changes.came(record.class.where(id: record)) }

      def here(group) = group["presets"].filter_map { @by_document[_1] }.uniq

      def sections(group) = (group["sections"] || {}).transform_keys { @by_document[_1] }

      # --- the rest --------------------------------------------------------------------------------

      # What a backup has beside brushes.
      def restore
        fresh = @brushes.select { |brush| brush.fresh && brush.item.past }
        facts = fresh.to_h { |brush| [brush.id, brush.item.past["facts"]] }
        @done.notes.concat(
          RestoreBackup.call(
            import: @import,
            person: @person,
            changes: @changes,
            brushes: @by_document.compact,
            facts:
          )
        )
      end

      # A package of a release becomes the bundle it was: its words, its brushes in order, under the
      # headings they stood under.
      def take_bundle(ids)
        words = @import.words
        return if @where["bundle"] != true || ids.empty? || words["name"].to_s.strip.empty?
        bundle = @library.bundles.create!(
          name: free_bundle_name(named(words["name"])[0, 90]),
          description: words["description"].to_s[0, 5000],
          author: words["author"].to_s[0, 200],
          licence: words["licence"].to_s[0, 200]
        )
        bundle.put_in_order(ids, headings(ids))
        made(bundle)
      end

      def free_bundle_name(name)
        taken = @library.bundles.pluck(:name).map(&:downcase)
        taken.include?(name.downcase) ? Core::Curation::Numbering.next_name(name, taken) : name
      end

      def headings(ids)
        groups = @import.words.fetch("sets", []).reject { _1["query"] }
        groups.flat_map { |group| here(group).map { [_1, named(group["name"])[0, 60]] } }.to_h.slice(*ids)
      end

      def hang_on_category
        category = @where["category"] && @library.categories.find_by(id: @where["category"]) or return
        Models::Preset.where(id: @brushes.select(&:fresh).map(&:id)).update_all(category_id: category.id)
      end

      def hang_tags
        looks = @import.words.fetch("tags", []).to_h { [_1["name"].downcase, _1] }
        wanted = @brushes.select(&:id).flat_map { |brush| tags_of(brush).map { [named(_1)[0, 60], brush.id] } }
        wanted = wanted.reject { |name, _| name.empty? }.group_by { |name, _| name.downcase }
        wanted.each { |word, pairs| hang(pairs.first.first, looks[word], pairs.map(&:last).uniq.sort) }
      end

      def tags_of(brush)
        own = brush.own_tags ? Array(brush.item.document.dig("about", "tags")) : []
        (brush.fresh || brush.identical) ? own + Array(@where["tags"]) : own
      end

      def hang(name, look, ids)
        tag = Models::Tag.called(@library, name, look:, changes: @changes)
        hung = tag.taggings.where(preset_id: ids)
        @changes.watch(hung) { tag.taggings.insert_all(ids.map { {preset_id: _1} }) }
      end

      # An export template of a name that is taken stays here as it is.
      def take_export_templates
        @import.words.fetch("export_templates", []).each do |export_template|
          next if @library.export_templates.named(export_template["name"]).exists?
          made(@library.export_templates.create!(export_template.slice("name", "scope", "file", "body")))
        end
      end
    end
  end
end
