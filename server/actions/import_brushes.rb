# frozen_string_literal: true

module Fobrel
  module Actions
    # Applies the plan of an import, whole or not at all. What is replaced is hidden; the
    # undo takes everything back but what people changed since.
    class ImportBrushes < Deed
      # @param import [Models::Import]
      # @param person [Models::Person] on whose behalf
      # @param progress [Proc] told how many of how many steps are done
      def initialize(import:, person:, progress: ->(*) {})
        @import = import
        @library = import.library
        @person = person
        @progress = progress
        @brought = []
      end

      # @return [Models::Import] applied, with its report
      def call
        @library.hold
        @items = @import.meant(past: true).index_by(&:id)
        @rows = @import.plan(@person, @items.values)
        keep_pictures
        @ids = @rows.to_h { |row| [row.coming.key, row.here&.key] }
        create(@rows.select { %w[take both replace].include?(_1.decision) })
        renew(@rows.select { _1.decision == "version" })
        replace(@rows.select { _1.decision == "replace" })
        restore(@rows.select { _1.decision == "back" })
        @rows.each { |row| @ids[row.coming.key] = @ids[row.twin] if row.twin }
        @arranged = ArrangeImport.call(import: @import, person: @person, changes:, brushes: taken)
        finish
      end

      private

      # They were kept when they were read, and are new again. Those of what is left out go in a night.
      def keep_pictures
        coming = @rows.reject { %w[leave back].include?(_1.decision) }
        wanted = coming.flat_map { needs(@items.fetch(_1.coming.key)) }.uniq
        wanted.each_slice(1000) { |some| Models::Asset.where(sha256: some).update_all(created_at: Time.current) }
      end

      def needs(item)
        earlier = item.earlier.flat_map { Core::Preset::Preset.restore(_1["preset"]).needs }
        (item.needs + earlier).map { Core::Sum.in(_1) }
      end

      def create(rows)
        rows.each_slice(200) do |some|
          values = some.to_h { |row| [row, own(row)] }
          presets = insert(values.values)
          brushes = values.to_h { |row, value| [row, presets.fetch(value.id)] }
          add_earlier(brushes.to_h { |row, preset| [preset, @items.fetch(row.coming.key)] })
          AddVersions.call(items: brushes.map { |row, preset| coming(row, preset, values[row]) }, person: @person)
          made = Models::Preset.where(id: presets.values)
          made.update_all("baseline_version_id = current_version_id, altered = false")
          changes.came(made)
          brushes.each { |row, preset| @ids[row.coming.key] = preset.id }
          @brought.concat(presets.values.map(&:id))
          @progress.call(@brought.size, rows.size, "Taking brushes in")
        end
      end

      # @return [Hash{String => Models::Preset}] by the document's id
      def insert(values)
        now = Time.current
        same = {library_id: @library.id, origin: "received", created_at: now, updated_at: now}
        rows = values.map { |value| same.merge(document_id: value.id, name: value.name) }
        Models::Preset.where(id: Models::Preset.insert_all!(rows, returning: :id).rows.flatten).index_by(&:document_id)
      end

      def coming(row, preset, value)
        version(preset, value, {"number" => row.coming.version, **@items.fetch(row.coming.key).told})
      end

      # The versions that a backup has of brushes that are new here: the first of each, the second …
      def add_earlier(brushes)
        (0...brushes.each_value.map { _1.earlier.size }.max.to_i).each do |turn|
          told = brushes.filter_map { |preset, item| (one = item.earlier[turn]) && [preset, one] }
          items = told.map do |preset, one|
            version(preset, Core::Preset::Preset.restore(one["preset"].merge("id" => preset.document_id)), one)
          end
          ids = AddVersions.call(items:, person: @person)
          told.zip(ids) { |(_, one), id| Models::VersionName.create!(version_id: id, name: one["name"]) if one["name"] }
        end
      end

      def version(preset, value, told)
        @people ||= @library.memberships.joins(:person).pluck("people.name", :person_id).to_h
        by = told["by"]
        maker = "made by #{by}" if by && !@people.key?(by)
        said = told.key?("at") ? [told["note"], maker].compact.join("; ") : note
        AddVersions::Item.new(preset, value, said, told["number"], told["at"] && Time.iso8601(told["at"]), @people[by])
      end

      # A brush that came here before under the same identity but paints otherwise is a brush of
      # its own.
      def own(row)
        @documents ||= @library.presets.pluck(:document_id).to_set
        value = @items.fetch(row.coming.key).value
        other = (row.name == value.name) ? {} : {"name" => row.name}
        other["id"] = SecureRandom.uuid unless @documents.add?(value.id)
        other.empty? ? value : Core::Preset::Preset[value.to_h.merge(other)]
      end

      def renew(rows)
        return if rows.empty?
        here = Models::Preset.where(id: rows.map { _1.here.key })
        changes.watch(here, %w[current_version_id]) do
          presets = here.index_by(&:id)
          items = rows.map do |row|
            preset = presets.fetch(row.here.key)
            document = @items.fetch(row.coming.key).document.merge("id" => preset.document_id, "name" => preset.name)
            AddVersions::Item.new(preset, Core::Preset::Preset[document], note, nil)
          end
          AddVersions.call(items:, person: @person)
        end
      end

      def replace(rows)
        here = Models::Preset.where(id: rows.map { _1.here.key })
        check_rights(@library, @person, here.to_a, plans: true)
        rows.each { |row| KeepDuplicate.swap(changes, [row.here.key], @ids.fetch(row.coming.key)) }
        changes.watch(here, %w[hidden_at hidden_by_id]) { here.hide(@person) }
        @put_away = rows.size
      end

      def restore(rows)
        hidden = Models::Preset.where(id: rows.map { _1.here.key })
        changes.watch(hidden, %w[hidden_at hidden_by_id]) { hidden.restore }
      end

      def note = "Received in #{@import.name}"

      # @return [Array<ArrangeImport::Brush>] in the order of the plan
      def taken
        brought = @brought.to_set
        @rows.map do |row|
          id = @ids[row.coming.key]
          own_tags = row.decision != "leave" || row.state == "identical"
          ArrangeImport::Brush.new(
            @items.fetch(row.coming.key),
            id,
            brought.include?(id),
            row.state == "identical",
            own_tags
          )
        end
      end

      def finish
        entry = write_down(@library, @person, "import", summary, about: [@import]) unless changes.empty?
        @import.update!(
          state: "applied",
          applied_at: Time.current,
          history_entry: entry,
          report: {"lines" => lines, "put_away" => @put_away + @arranged.put_away, "notes" => @arranged.notes},
          person: @import.person || @person
        )
        @import.clear
        @import
      end

      def lines
        @rows.map do |row|
          {
            "name" => row.coming.name,
            "state" => row.state,
            "decision" => row.decision,
            "becomes" => row.name,
            "sentence" => @items.fetch(row.coming.key).sentence,
            "preset" => @ids[row.coming.key]
          }
        end
      end

      SAID = {
        "take" => "new",
        "both" => "under the next number",
        "version" => "as next versions",
        "replace" => "in the place of another",
        "back" => "restored"
      }.freeze
      private_constant :SAID

      def summary
        counts = @rows.group_by(&:decision).transform_values(&:size)
        same = @rows.count { _1.state == "identical" }
        parts = SAID.filter_map { |decision, words| "#{counts[decision]} #{words}" if counts[decision] }
        parts << "#{same} already here" if same.positive?
        left = counts.fetch("leave", 0) - same
        parts << "#{left} left out" if left.positive?
        "#{@import.name}: #{parts.join(", ")}"
      end
    end
  end
end
