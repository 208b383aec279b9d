# frozen_string_literal: true

module Fobrel
  module Actions
    # Applies the plan of an arrival, whole or not at all. What is replaced goes to the Attic; the
    # undo takes everything back but what people changed since.
    class TakeIn < Action
      # @param arrival [Models::Arrival]
      # @param person [Models::Person] on whose behalf
      # @param progress [Proc] told how many of how many steps are done
      def initialize(arrival:, person:, progress: ->(*) {})
        @arrival = arrival
        @library = arrival.library
        @person = person
        @progress = progress
        @where = arrival.choices.fetch("where", {})
        @undo = {
          "presets" => [],
          "sets" => [],
          "set_items" => [],
          "taggings" => [],
          "tags" => [],
          "editions" => [],
          "hidden" => [],
          "shown" => [],
          "places" => [],
          "orders" => [],
          "recipes" => [],
          "histories" => {}
        }
        @notes = []
      end

      # @return [Models::Arrival] applied, with its report
      def call
        @library.hold
        @items = @arrival.meant(past: true).index_by(&:id)
        @rows = @arrival.plan(@person, @items.values)
        keep_pictures
        @ids = @rows.to_h { |row| [row.coming.key, row.here&.key] }
        create(@rows.select { %w[take both replace].include?(_1.decision) })
        renew(@rows.select { _1.decision == "edition" })
        replace(@rows.select { _1.decision == "replace" })
        bring_back(@rows.select { _1.decision == "back" })
        @rows.each { |row| @ids[row.coming.key] = @ids[row.twin] if row.twin }
        arrange
        finish
      end

      private

      COPY = <<~SQL
        INSERT INTO assets (sha256, ext, bytes, created_at)
        SELECT sha256, ext, bytes, now() FROM arrival_parts WHERE arrival_id = ? AND sha256 IN (?) AND ext <> 'zip'
        ON CONFLICT (sha256) DO UPDATE SET created_at = excluded.created_at
      SQL
      private_constant :COPY

      # Inside the database, so that no picture passes through here. Those of what is left out
      # are not kept.
      def keep_pictures
        wanted = @rows.reject {
          %w[leave back].include?(_1.decision)
        }.flat_map { needs(@items.fetch(_1.coming.key)) }.uniq
        wanted.each_slice(100).with_index do |some, index|
          Models::Record.connection.exec_update(Models::Record.sanitize_sql([COPY, @arrival.id, some]))
          @progress.call(index * 100, wanted.size, "Keeping pictures")
        end
      end

      def needs(item)
        (item.needs + item.earlier.flat_map {
          Core::Preset::Preset.restore(_1["preset"]).needs
        }).map { _1.delete_prefix("sha256:") }
      end

      def create(rows)
        rows.each_slice(200) do |some|
          values = some.map { |row| own(row) }
          now = Time.current
          ids = Models::Preset.insert_all!(
            values.map {
              {
                library_id: @library.id,
                document_id: _1.id,
                name: _1.name,
                origin: "received",
                created_at: now,
                updated_at: now
              }
            },
            returning: %w[id document_id]
          ).to_h {
            [
              _1["document_id"], _1["id"]
            ]
          }
          presets = Models::Preset.where(id: ids.values).index_by(&:id)
          add_earlier(
            some.zip(values).to_h { |row, value|
              [presets.fetch(ids.fetch(value.id)), @items.fetch(row.coming.key)]
            }
          )
          AddEditions.call(
            items: some.zip(values).map { |row, value|
              edition(
                presets.fetch(ids.fetch(value.id)),
                value,
                {"number" => row.coming.edition, **@items.fetch(row.coming.key).told}
              )
            },
            person: @person
          )
          Models::Preset.where(id: ids.values).update_all("home_edition_id = current_edition_id, altered = false")
          some.zip(values).each { |row, value| @ids[row.coming.key] = ids.fetch(value.id) }
          @undo["presets"].concat(ids.values)
          @progress.call(@undo["presets"].size, rows.size, "Taking brushes in")
        end
      end

      # The editions that a backup has of brushes that are new here: the first of each, the second …
      def add_earlier(brushes)
        (0...brushes.each_value.map { _1.earlier.size }.max.to_i).each do |turn|
          told = brushes.filter_map { |preset, item| (one = item.earlier[turn]) && [preset, one] }
          ids = AddEditions.call(
            items: told.map { |preset, one|
              edition(
                preset,
                Core::Preset::Preset.restore(one["preset"].merge("id" => preset.document_id)),
                one
              )
            },
            person: @person
          )
          told.zip(ids) do |(preset, one), id|
            Models::EditionName.create!(edition_id: id, name: one["name"]) if one["name"]
            @undo["histories"][preset.id] = turn + 2
          end
        end
      end

      def edition(preset, value, told)
        @people ||= @library.memberships.joins(:person).pluck("people.name", :person_id).to_h
        by = told["by"]
        note = told.key?("at") ? [
          told["note"],
          ("made by #{by}" if by && !@people.key?(by))
        ].compact.join("; ") : self.note
        AddEditions::Item.new(preset, value, note, told["number"], told["at"] && Time.iso8601(told["at"]), @people[by])
      end

      # A brush that came here before under the same identity but paints otherwise is a brush of
      # its own.
      def own(row)
        @documents ||= @library.presets.pluck(:document_id).to_set
        value = @items.fetch(row.coming.key).value
        changes = (row.name == value.name) ? {} : {"name" => row.name}
        changes["id"] = SecureRandom.uuid unless @documents.add?(value.id)
        changes.empty? ? value : Core::Preset::Preset[value.to_h.merge(changes)]
      end

      def renew(rows)
        return if rows.empty?
        presets = Models::Preset.where(id: rows.map { _1.here.key }).order(:id).lock.index_by(&:id)
        before = presets.transform_values(&:current_edition_id)
        items = rows.map do |row|
          preset = presets.fetch(row.here.key)
          AddEditions::Item.new(
            preset,
            Core::Preset::Preset[@items.fetch(row.coming.key).document.merge(
              "id" => preset.document_id,
              "name" => preset.name
            )],
            note,
            nil
          )
        end
        ids = AddEditions.call(items:, person: @person)
        @undo["editions"] = items.zip(ids).map { |item, id| [item.preset.id, before.fetch(item.preset.id), id] }
      end

      def replace(rows)
        check_rights(@library, @person, @library.presets.where(id: rows.map { _1.here.key }).to_a, plans: true)
        rows.each { |row| @undo["places"].concat(KeepDouble.swap([row.here.key], @ids.fetch(row.coming.key))) }
        hide(rows.map { _1.here.key })
      end

      def hide(ids)
        Models::Preset.where(id: ids).update_all(hidden_at: Time.current, hidden_by_id: @person.id)
        @undo["hidden"].concat(ids)
      end

      def bring_back(rows)
        @undo["shown"] = rows.map { _1.here.key }
        Models::Preset.where(id: @undo["shown"]).update_all(hidden_at: nil, hidden_by_id: nil)
      end

      def note = "Received in #{@arrival.name}"

      def arrange
        taken = @rows.filter_map { @ids[_1.coming.key] }.uniq
        fill_sets unless @where["sets"] == false
        put_in_set(taken)
        restore if @arrival.words["library"]
        take_bundle(taken)
        family = @where["family"] && @library.families.find_by(id: @where["family"])
        Models::Preset.where(id: @undo["presets"]).update_all(family_id: family.id) if family
        hang_tags
        take_recipes
      end

      def by_document = @by_document ||= @items.values.to_h { |item| [item.document_id, @ids[item.id]] }

      # What a backup has beside brushes.
      def restore
        fresh = @undo["presets"].to_set
        facts = @items.each_value.filter_map { |item|
          item.past && fresh.include?(@ids[item.id]) && [@ids[item.id], item.past["facts"]]
        }.to_h
        done = RestoreBackup.call(arrival: @arrival, person: @person, brushes: by_document.compact, facts:)
        @undo.merge!(done.undo) { |_, was, more| was + more }
        @notes.concat(done.notes)
      end

      # The sets that come with a package: what is missing is added at their ends.
      def fill_sets
        unseen, groups = @arrival.words.fetch("sets", []).partition { Core::Names.clean(_1["name"]).empty? }
        if unseen.any?
          what = (unseen.size == 1) ? "A set whose name" : "#{unseen.size} sets whose names"
          @notes << "#{what} cannot be seen #{(unseen.size == 1) ? "was" : "were"} left out; the brushes were taken in."
        end
        (groups - make_sets(groups)).each do |group|
          next standing_set(group) if group["query"]
          if named(group["name"])&.standing?
            next @notes << "The set “#{group["name"]}” fills itself from a search here, so nothing was put there."
          end
          set = found_set(group["name"])
          was = set.preset_ids_in_order
          added = group["presets"].filter_map { by_document[_1] }.uniq - was
          next if added.empty?
          sections = (group["sections"] || {}).transform_keys { by_document[_1] }.slice(*added)
          set.put_in_order(was + added, set.section_by_preset.merge(sections))
          @undo["set_items"] << [set.id, added]
        end
      end

      # Those that are not here, all in a few questions: a package may have thousands.
      #
      # @return [Array<Hash>] the groups that are done with
      def make_sets(groups)
        here = @library.brush_sets.pluck(Arel.sql("lower(name)")).to_set
        fresh = groups.reject {
          _1["query"]
        }.map {
          [
            Core::Names.clean(_1["name"])[0, 100],
            _1
          ]
        }.uniq { |name, _| name.downcase }.reject { |name, _| here.include?(name.downcase) }
        now = Time.current
        fresh.each_slice(1000).flat_map do |some|
          made = Models::BrushSet.insert_all(
            some.map { |name, _|
              {library_id: @library.id, name:, created_at: now, updated_at: now}
            },
            returning: %w[id name]
          ).to_h {
            [
              _1["name"],
              _1["id"]
            ]
          }
          some = some.select { |name, _| made.key?(name) }
          @undo["sets"].concat(made.values)
          fill(some.map { |name, group| [made[name], group] })
          some.map(&:last)
        end
      end

      def fill(pairs)
        rows = pairs.flat_map do |set, group|
          ids = group["presets"].filter_map { by_document[_1] }.uniq
          @undo["set_items"] << [set, ids] if ids.any?
          headings = (group["sections"] || {}).transform_keys { by_document[_1] }
          ids.each_with_index.map { |preset_id, position|
            {brush_set_id: set, preset_id:, position:, section: headings[preset_id].presence}
          }
        end
        rows.each_slice(5000) { Models::SetItem.insert_all!(_1) }
      end

      def standing_set(group)
        return if named(group["name"])
        Core::Curation::Query.parse(group["query"])
        @undo["sets"] << @library.brush_sets.create!(
          name: Core::Names.clean(group["name"])[0, 100],
          query: group["query"]
        ).id
      rescue Core::Curation::Query::Unclear => e
        @notes << "The set “#{group["name"]}” was left out: #{e.message}"
      end

      def named(name) = @library.brush_sets.find_by("lower(name) = lower(?)", Core::Names.clean(name)[0, 100])

      def found_set(name)
        set = named(name)
        if set&.standing?
          raise Core::Problem,
            "“#{set.name}” fills itself from a search, so nothing can be put there. Nothing was taken in. Choose " \
              "another set."
        end
        set || @library.brush_sets.create!(name: Core::Names.clean(name)[0, 100]).tap { @undo["sets"] << _1.id }
      end

      # The set that was chosen: everything of the arrival at a place, or in place of what it holds.
      def put_in_set(ids)
        return if @where["set"].to_s.strip.empty? || ids.empty?
        set = found_set(@where["set"])
        was = set.preset_ids_in_order
        rest = was - ids
        after = (@where["mode"] == "replace") ? ids : placed(rest, ids)
        return if after == was
        @undo["orders"] << {"set" => set.id, "before" => was, "after" => after, "sections" => set.section_by_preset}
        set.put_in_order(after)
        put_away(was - after) if @where["mode"] == "replace"
      end

      def placed(rest, ids)
        at = {"start" => 0, "end" => rest.size}.fetch(@where.fetch("place", "end")) {
          rest.index(@where["place"].to_i) || rest.size
        }
        rest.dup.insert(at, *ids)
      end

      # A package of a release becomes the bundle it was: its words, its brushes in order, under the
      # headings they stood under.
      def take_bundle(ids)
        return if @where["bundle"] != true || ids.empty? || @arrival.words["name"].to_s.strip.empty?
        taken = @library.bundles.pluck(:name).map(&:downcase)
        name = Core::Names.clean(@arrival.words["name"])[0, 90]
        name = Core::Curation::Numbering.next_name(name, taken) if taken.include?(name.downcase)
        bundle = @library.bundles.create!(
          name:,
          **%w[description author licence].to_h { |key|
            [key.to_sym, @arrival.words[key].to_s[0, (key == "description") ? 5000 : 200]]
          }
        )
        bundle.put_in_order(ids, headings(ids))
        (@undo["bundles"] ||= []) << {"id" => bundle.id, "brushes" => ids, "releases" => []}
      end

      def headings(ids)
        @arrival.words.fetch("sets", []).reject { _1["query"] }.flat_map { |group|
          group["presets"].filter_map { |id|
            by_document[id]
          }.map { [_1, Core::Names.clean(group["name"])[0, 60]] }
        }.to_h.slice(*ids)
      end

      # What lost its place goes to the Attic, unless it is used somewhere else.
      def put_away(ids)
        used = KeepDouble::HOLDERS.values.flat_map { |model|
          model.reflect_on_association(:items).klass.where(preset_id: ids).pluck(:preset_id)
        }
        hide(ids - used)
      end

      def hang_tags
        looks = @arrival.words.fetch("tags", []).to_h { [_1["name"].downcase, _1] }
        more = Array(@where["tags"])
        wanted = @rows.flat_map do |row|
          id = @ids[row.coming.key] or next []
          own = (row.decision == "leave" && row.state != "identical") ? [] : Array(
            @items.fetch(row.coming.key).document.dig(
              "about", "tags"
            )
          )
          (own + ((@undo["presets"].include?(id) || row.state == "identical") ? more : [])).map {
            [Core::Names.clean(_1)[0, 60], id]
          }
        end
        wanted.reject {
          _1.first.empty?
        }.group_by { _1.first.downcase }.each { |word, pairs|
          hang(
            pairs.first.first,
            looks[word],
            pairs.map(&:last).uniq
          )
        }
      end

      def hang(name, look, ids)
        tag = Models::Tag.called(@library, name, look:)
        @undo["tags"] << tag.id if tag.previously_new_record?
        fresh = ids - tag.taggings.where(preset_id: ids).pluck(:preset_id)
        return if fresh.empty?
        tag.taggings.insert_all!(fresh.map { {preset_id: _1} })
        @undo["taggings"].concat(fresh.map { [tag.id, _1] })
      end

      # A recipe of a name that is taken stays here as it is.
      def take_recipes
        @arrival.words.fetch("recipes", []).each do |recipe|
          next if @library.recipes.exists?(["lower(name) = ?", recipe["name"].downcase])
          @undo["recipes"] << @library.recipes.create!(recipe.slice("name", "scope", "file", "body")).id
        end
      end

      def finish
        lines = @rows.map { |row|
          {
            "name" => row.coming.name,
            "state" => row.state,
            "decision" => row.decision,
            "becomes" => row.name,
            "sentence" => @items.fetch(row.coming.key).sentence,
            "preset" => @ids[row.coming.key]
          }
        }
        entry = @undo.values.any?(&:any?) ? write_down(@library, @person, "import", summary, @undo) : nil
        @arrival.update!(
          state: "applied",
          applied_at: Time.current,
          ledger_entry: entry,
          report: {"lines" => lines, "put_away" => @undo["hidden"].size, "notes" => @notes},
          person: @arrival.person || @person
        )
        @arrival.clear
        @arrival
      end

      SAID = {
        "take" => "new",
        "both" => "under the next number",
        "edition" => "as next editions",
        "replace" => "in the place of another",
        "back" => "brought back"
      }.freeze
      private_constant :SAID

      def summary
        counts = @rows.group_by(&:decision).transform_values(&:size)
        same = @rows.count { _1.state == "identical" }
        parts = SAID.filter_map { |decision, words| "#{counts[decision]} #{words}" if counts[decision] }
        parts << "#{same} already here" if same.positive?
        left = counts.fetch("leave", 0) - same
        parts << "#{left} left out" if left.positive?
        "#{@arrival.name}: #{parts.join(", ")}"
      end
    end
  end
end
