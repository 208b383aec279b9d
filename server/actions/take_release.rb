# frozen_string_literal: true

module Fobrel
  module Actions
    # Brings a library that follows a bundle to one of its releases, a newer or an earlier one. What was changed here
    # meanwhile is kept: both sides' changes are brought together setting by setting, and where both changed the same,
    # somebody decides.
    class TakeRelease < Deed
      # What becomes of one brush. `kind` is "new", "same", "changed" (there only), "merged" (on both sides),
      # "conflict", "gone" (there; untouched and unused here, so it goes to the Attic) or "stays" (gone there, but
      # changed or used here). `base` is what it was when it came, `value` what it would be.
      Row = Struct.new(:id, :kind, :preset, :base, :mine, :theirs, :value, :merge, :why, keyword_init: true) do
        # @return [Boolean] whether taking it changes anything here
        def changes? = %w[new changed merged gone].include?(kind)

        def name = (mine || theirs || base).name
      end

      # @param follow [Models::Follow]
      # @param release [Models::Release] of the bundle
      # @param only [Array<String>, nil] document ids of the brushes that are taken; nil are all
      # @param choices [Hash{String => Hash}] by document id: a side by the key of a conflict, "mine" or "theirs"
      def initialize(follow:, person:, release:, only: nil, choices: {})
        @follow = follow
        @library = follow.library
        @person = person
        @release = release
        @only = only
        @choices = choices
      end

      # What would happen; nothing is changed.
      #
      # @return [Array<Row>] in the order of the release, what is gone last
      def rows
        theirs = documents
        known = @follow.brushes.includes(preset: :current_edition).index_by(&:document_id)
        here = theirs.map { |id, value| row(id, value, known[id]) }
        left = known.except(*theirs.keys)
        uses = Finding::Uses.here(@library, left.values.map(&:preset_id))
        here + left.map { |id, one| gone(id, one, uses[one.preset_id]) }
      end

      # What one brush was when it came, is here, and is there; as it paints, so that no package is opened for it.
      #
      # @param id [String] its document's
      # @return [Hash{String => Core::Preset::Preset, nil}] by "base", "mine" and "theirs"
      def sides(id)
        known = @follow.brushes.find_by(document_id: id)
        preset = known&.preset || @library.presets.find_by(document_id: id)
        theirs = painted_there(id)
        {"base" => known ? known.value : theirs, "mine" => preset&.current_edition&.value, "theirs" => theirs}
      end

      # @return [Models::LedgerEntry]
      # @raise [Core::Problem] naming what is undecided
      def call
        @library.hold
        @follow.lock!
        rows = self.rows
        chosen, left = rows.partition { |row| @only.nil? || @only.include?(row.id) }
        refuse_undecided(chosen)
        first = @follow.release_id.nil?
        changes.came(Models::Follow.where(id: @follow)) if first
        take(chosen.select(&:changes?))
        changes.watch(@follow.brushes) { remember(chosen) }
        # What was left out is still to be had: the library is not there yet.
        move(first) if left.none? { |row| row.changes? || row.kind == "conflict" }
        write_down(@library, @person, "follow", said(chosen), about: [@follow, @release])
      end

      private

      def move(first)
        return if @follow.release_id == @release.id
        go = -> { @follow.update!(release: @release, earlier: @follow.release) }
        first ? go.call : changes.watch(Models::Follow.where(id: @follow), %w[release_id earlier_id], &go)
      end

      def painted_there(id)
        print = @release.items.find { |item| item["id"] == id }&.fetch("fingerprint") or return
        there = Models::Edition.joins(:preset)
          .where(fingerprint: print, presets: {library_id: @follow.bundle.library_id, document_id: id})
        there.last&.value || documents[id]
      end

      # The release's brushes as they were frozen; their pictures are kept already.
      def documents
        bytes = Models::Release::Packed.new(@release.id, 0).bytes
        found = Core::Package::Archive.open(StringIO.new(bytes), name: "The release") do |files|
          files.keys.grep(%r{\Adata/presets/[^/]+\.json\z}).to_h { |path|
            value = Core::Preset::Preset.restore(JSON.parse(files[path]))
            [value.id, value]
          }
        end
        order = @release.items.each_with_index.to_h { |item, index| [item["id"], index] }
        found.sort_by { |id, _| order.fetch(id, order.size) }.to_h
      end

      def row(id, theirs, known)
        return fresh(id, theirs) unless known
        base = known.value
        mine = known.preset.current_edition.value
        common = {id:, preset: known.preset, base:, mine:, theirs:}
        return Row.new(kind: "same", **common) if theirs.alike?(base) || theirs.alike?(mine)
        return Row.new(kind: "changed", value: theirs, **common) if mine.alike?(base)
        merge = Core::Preset::Merge.new(base:, mine:, theirs:)
        choices = @choices.fetch(id, {})
        open = merge.conflicts.reject { |one| Core::Preset::Merge::SIDES.include?(choices[one.key]) }
        return Row.new(kind: "conflict", merge:, **common) if open.any?
        Row.new(kind: "merged", merge:, value: merge.preset(choices.slice(*merge.conflicts.map(&:key))), **common)
      end

      # One that is here already by another way is followed from now on.
      def fresh(id, theirs)
        preset = @library.presets.find_by(document_id: id)
        return Row.new(id:, kind: "new", theirs:, value: theirs) unless preset
        mine = preset.current_edition.value
        return Row.new(id:, kind: "same", preset:, base: theirs, mine:, theirs:) if mine.alike?(theirs)
        Row.new(id:, kind: "stays", preset:, base: theirs, mine:, theirs:, why: "it is here already, and otherwise")
      end

      def gone(id, known, places)
        preset = known.preset
        mine = preset.current_edition.value
        changed = !mine.alike?(known.value)
        why = "it was changed here" if changed
        why ||= "it is used here (#{places.first(3).join(", ")})" if places.any?
        Row.new(id:, kind: why ? "stays" : "gone", preset:, base: known.value, mine:, theirs: nil, why:)
      end

      def refuse_undecided(rows)
        open = rows.select { |row| row.kind == "conflict" }
        return if open.empty?
        raise Core::Problem,
          "Both sides changed the same of #{open.first(3).map { |row| "“#{row.name}”" }.join(", ")}" \
            "#{" and #{open.size - 3} more" if open.size > 3}. Nothing was taken. Decide these, or leave them out."
      end

      def take(rows)
        fresh, there = rows.partition { |row| row.kind == "new" }
        gone, changed = there.partition { |row| row.kind == "gone" }
        save(changed)
        hide(gone)
        made = fresh.map { |row| row.preset = create(row) }
        changes.came(Models::Preset.where(id: made)) if made.any?
      end

      def save(rows)
        return if rows.empty?
        check_rights(@library, @person, rows.map(&:preset))
        note = "“#{@follow.bundle.name}” #{@release.number}"
        items = rows.map { |row| AddEditions::Item.new(row.preset, row.value, note) }
        found = Models::Preset.where(id: rows.map(&:preset))
        changes.watch(found, %w[current_edition_id]) { AddEditions.call(items:, person: @person) }
      end

      def hide(rows)
        return if rows.empty?
        found = Models::Preset.where(id: rows.map(&:preset), hidden_at: nil)
        changes.watch(found, %w[hidden_at hidden_by_id]) { found.hide(@person) }
      end

      def create(row)
        @names ||= @library.preset_names
        taken = @names.any? { |one| one.casecmp?(row.name) }
        name = taken ? Core::Curation::Numbering.next_name(row.name, @names) : row.name
        @names << name
        value = Core::Preset::Preset.restore(row.theirs.to_h.merge("name" => name))
        note = "“#{@follow.bundle.name}” #{@release.number}"
        CreatePreset.call(library: @library, value:, person: @person, note:, origin: "received").tap { |preset|
          preset.update!(came_from: came_from(row))
        }
      end

      def came_from(row)
        from = @follow.bundle.library
        original = from.presets.find_by(document_id: row.id)
        {
          preset: original&.id,
          library: from.id,
          library_name: from.name,
          name: row.theirs.name,
          edition: original&.current_edition&.number || 1,
          fingerprint: row.theirs.fingerprint
        }
      end

      # What it came as is the ground that the next release is held against.
      def remember(rows)
        gone, here = rows.partition { |row| row.theirs.nil? }
        @follow.brushes.where(document_id: gone.map(&:id)).delete_all
        kept = here.select(&:preset).map { |row|
          {
            follow_id: @follow.id,
            preset_id: row.preset.id,
            document_id: row.id,
            base: row.theirs.to_h,
            fingerprint: row.theirs.fingerprint
          }
        }
        kept.each_slice(500) { |some| Models::FollowedBrush.upsert_all(some, unique_by: %i[follow_id document_id]) }
      end

      def said(rows)
        counts = rows.map(&:kind).tally
        parts = {
          "new" => "%d new",
          "changed" => "%d changed",
          "merged" => "%d brought together with own changes",
          "gone" => "%d into the Attic",
          "stays" => "%d kept here"
        }.filter_map { |kind, words| format(words, counts[kind]) if counts[kind] }
        "“#{@follow.bundle.name}” #{@release.number} taken from “#{@follow.bundle.library.name}”" \
          "#{": #{parts.join(", ")}" if parts.any?}"
      end
    end
  end
end
