# frozen_string_literal: true

module Fobrel
  module Actions
    # Brings a library that follows a bundle to one of its releases, a newer or an earlier one. What was changed here
    # meanwhile is kept: both sides' changes are brought together setting by setting, and where both changed the same,
    # somebody decides.
    class TakeRelease < Deed
      # What becomes of one brush. `kind` is "new", "same", "changed" (there only), "merged" (on both sides),
      # "conflict", "gone" (there; untouched and unused here, so it is hidden) or "stays" (gone there, but
      # changed or used here). `base` is what it was when it came, `value` what it would be. `hidden` is nil for a brush
      # that is shown here; else "back" (it is restored) or "stays" (somebody hid it here, and it is
      # left hidden unless that is decided otherwise).
      Row = Struct.new(:id, :kind, :preset, :base, :mine, :theirs, :value, :merge, :why, :hidden, keyword_init: true) do
        # @return [Boolean] whether taking it changes anything here
        def changes? = %w[new changed merged gone].include?(kind) || back?

        # @return [Boolean] whether it gets another version
        def edits? = %w[changed merged].include?(kind)

        # @return [Boolean] whether it is shown again
        def back? = hidden == "back"

        def name = (mine || theirs || base).name
      end

      # @param follow [Models::Follow]
      # @param release [Models::Release] of the bundle
      # @param only [Array<String>, nil] document ids of the brushes that are taken; nil are all
      # @param choices [Hash{String => Hash}] by document id: a side by the key of a conflict, "mine" or "theirs"; by
      #   HIDDEN whether a brush that is hidden here stays so ("mine") or is restored ("theirs")
      def initialize(follow:, person:, release:, only: nil, choices: {})
        @follow = follow
        @library = follow.library
        @person = person
        @release = release
        @only = only
        @choices = choices
      end

      HIDDEN = "hidden"

      # @raise [Core::Problem] a withdrawn release is not taken by anybody any more
      def self.refuse_withdrawn(bundle, release)
        return unless release.withdrawn_at
        reason = ": #{release.withdrawn_reason}" if release.withdrawn_reason.present?
        raise Core::Problem, "“#{bundle.name}” #{release.number} was withdrawn#{reason}. Take another release."
      end

      # What would happen; nothing is changed.
      #
      # @return [Array<Row>] in the order of the release, what is gone last
      def rows
        theirs = documents
        known = @follow.known.includes(preset: :current_version).index_by(&:document_id)
        here = theirs.map { |id, value| row(id, value, known[id]) }
        left = known.except(*theirs.keys).reject { |_, one| one.left_as }
        uses = Finding::Uses.here(@library, left.values.map(&:preset_id))
        here + left.map { |id, one| gone(id, one, uses[one.preset_id]) }
      end

      # What one brush was when it came, is here, and is there; as it paints, so that no package is opened for it.
      #
      # @param id [String] its document's
      # @return [Hash{String => Core::Preset::Preset, nil}] by "base", "mine" and "theirs"
      def sides(id)
        known = @follow.known.find_by(document_id: id)
        preset = known&.preset || @library.presets.find_by(document_id: id)
        theirs = painted_there(id)
        {"base" => known ? known.value : theirs, "mine" => preset&.current_version&.value, "theirs" => theirs}
      end

      # @return [Models::HistoryEntry]
      # @raise [Core::Problem] naming what is undecided, or why nothing more can be taken
      def call
        @library.hold
        @follow.lock!
        refuse_without_right
        self.class.refuse_withdrawn(@follow.bundle, @release)
        rows = self.rows
        chosen, left = rows.partition { |row| @only.nil? || @only.include?(row.id) }
        refuse_undecided(chosen)
        first = @follow.release_id.nil?
        changes.came(Models::Follow.where(id: @follow)) if first
        take(chosen.select(&:changes?))
        changes.watch(@follow.known) { remember(chosen) }
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
        there = Models::Version.joins(:preset)
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

      def refuse_without_right
        right = Models::FollowRight.find_by(publisher: @follow.bundle.library_id, library: @library)
        return if right&.granted?
        sentence = right ? right.why_not : "“#{@follow.bundle.library.name}” no longer lets this library follow it."
        raise Core::Problem, "#{sentence} What was taken before stays here. Ask a lead there."
      end

      # @param known [Models::FollowedBrush, nil] nil for one that is here by another way
      # @return [String, nil] what becomes of a brush that lies hidden, see Row
      def hidden(id, preset, known)
        return if preset.hidden_at.nil?
        choice = @choices.dig(id, HIDDEN)
        by_hand = known && known.left_as != "hidden"
        if choice ? choice == "mine" : by_hand
          "stays"
        else
          "back"
        end
      end

      def row(id, theirs, known)
        return fresh(id, theirs) unless known
        base = known.value
        mine = known.preset.current_version.value
        common = {id:, preset: known.preset, base:, mine:, theirs:, hidden: hidden(id, known.preset, known)}
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
        mine = preset.current_version.value
        common = {id:, preset:, base: theirs, mine:, theirs:, hidden: hidden(id, preset, nil)}
        return Row.new(kind: "same", **common) if mine.alike?(theirs)
        Row.new(kind: "stays", why: "it is here already, and otherwise", **common)
      end

      def gone(id, known, places)
        preset = known.preset
        mine = preset.current_version.value
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
        gone, here = there.partition { |row| row.kind == "gone" }
        save(here.select(&:edits?))
        show(here.select(&:back?))
        hide(gone)
        made = fresh.map { |row| row.preset = create(row) }
        changes.came(Models::Preset.where(id: made)) if made.any?
      end

      def save(rows)
        return if rows.empty?
        check_rights(@library, @person, rows.map(&:preset))
        note = "“#{@follow.bundle.name}” #{@release.number}"
        items = rows.map { |row| AddVersions::Item.new(row.preset, row.value, note) }
        found = Models::Preset.where(id: rows.map(&:preset))
        changes.watch(found, %w[current_version_id]) { AddVersions.call(items:, person: @person) }
      end

      def hide(rows)
        return if rows.empty?
        found = Models::Preset.where(id: rows.map(&:preset), hidden_at: nil)
        changes.watch(Models::Preset.where(id: found.ids), %w[hidden_at hidden_by_id]) { found.hide(@person) }
      end

      def show(rows)
        return if rows.empty?
        found = Models::Preset.where(id: rows.map(&:preset))
        changes.watch(found, %w[hidden_at hidden_by_id]) { found.restore }
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
          version: original&.current_version&.number || 1,
          fingerprint: row.theirs.fingerprint
        }
      end

      # What it came as is the ground that the next release is held against.
      def remember(rows)
        gone, here = rows.partition { |row| row.theirs.nil? }
        gone.group_by { |row| (row.kind == "gone" && row.preset.hidden_at.nil?) ? "hidden" : "kept" }
          .each { |left_as, some| @follow.known.where(document_id: some.map(&:id)).update_all(left_as:) }
        kept = here.select(&:preset).map { |row|
          {
            follow_id: @follow.id,
            preset_id: row.preset.id,
            document_id: row.id,
            base: row.theirs.to_h,
            fingerprint: row.theirs.fingerprint,
            left_as: nil
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
          "gone" => "%d hidden",
          "stays" => "%d kept here"
        }.filter_map { |kind, words| format(words, counts[kind]) if counts[kind] }
        {"back" => "restored", "stays" => "left hidden"}.each do |hidden, words|
          count = rows.count { |row| row.hidden == hidden && row.theirs }
          parts << "#{count} #{words}" if count.positive?
        end
        "“#{@follow.bundle.name}” #{@release.number} taken from “#{@follow.bundle.library.name}”" \
          "#{": #{parts.join(", ")}" if parts.any?}"
      end
    end
  end
end
