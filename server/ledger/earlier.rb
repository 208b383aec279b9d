# frozen_string_literal: true

module Fobrel
  module Ledger
    # Reads what the ledger kept until November 2026, each deed in terms of its own, as rows.
    #
    #   Earlier.new(entry).changes.to_h   # => {"version" => 2, …}
    class Earlier
      EDITED = ["reset", "restore", "fit", "copy settings", "rename"].freeze

      # Writes every such entry anew.
      def self.rewrite
        Models::LedgerEntry.where.not(undo: [{}, Models::LedgerEntry::CLOSED]).find_each do |entry|
          next if entry.undo.key?("version")
          changes = new(entry).changes
          entry.update_columns(undo: changes.to_h, touched: changes.touched)
        rescue NoMethodError, KeyError, TypeError => e
          # It stays written down as it is, and cannot be undone; the others are not held up.
          Watching::Log.trouble("The undo of history entry #{entry.id} (#{entry.kind}) cannot be read", e)
        end
      end

      # @param entry [Models::LedgerEntry] of before
      def initialize(entry)
        @entry = entry
        @undo = entry.undo
        @list = []
      end

      # @return [Changes]
      def changes
        read
        Changes.new(@list)
      end

      private

      def read
        case @entry.kind
        when "tag" then taggings(@undo["presets"].map { [@undo["tag"], _1] })
        when "untag" then @undo["presets"].each {
          went("taggings", "#{@undo["tag"]}-#{_1}", {"tag_id" => @undo["tag"], "preset_id" => _1})
        }
        when "merge tags" then merged
        when "family", "label" then sorted
        when "hide" then hidden(@undo["presets"])
        when "bring back" then shown(@undo["presets"])
        when "duplicate"
          presets(@undo["presets"])
          taggings(tags_of_copies)
        when "set" then order("brush_sets", @undo["set"], @undo)
        when "split" then split
        when "start-up plan" then order("seats", @undo["seat"], @undo)
        when "bundle" then bundle
        when "doubles"
          places
          hidden(@undo["presets"])
        when "remove" then removed
        when "home" then changed(
          "presets",
          @undo["preset"],
          {"home_edition_id" => @undo["before"]},
          {"home_edition_id" => @undo["after"]}
        )
        when "lock" then locked
        when "import" then imported
        when *EDITED
          editions(@undo["editions"])
          drafts
        end
      end

      def add(table, key, before, after) = @list << Changes::Change.new(table, key.to_s, before, after)

      def changed(table, id, before, after) = add(table, id, before, after)

      def came(table, key, after = {}) = add(table, key, nil, after)

      def went(table, key, before) = add(table, key, before, nil)

      def taggings(pairs)
        pairs.each { |tag, preset| came("taggings", "#{tag}-#{preset}", {"tag_id" => tag, "preset_id" => preset}) }
      end

      def merged
        gone = @undo["gone"]
        library_id = @entry.library_id
        @undo["had"].each { |id| went("taggings", "#{gone["id"]}-#{id}", {"tag_id" => gone["id"], "preset_id" => id}) }
        taggings(@undo["fresh"].map { [@undo["into"], _1] })
        gone["synonyms"].each { |word|
          went("tag_synonyms", new_id, {"tag_id" => gone["id"], "library_id" => library_id, "name" => word})
        }
        went("tags", gone["id"], gone.slice("id", "name", "colour", "shape").merge("library_id" => library_id))
        words = [gone["name"], *gone["synonyms"]]
        Models::TagSynonym.where(tag_id: @undo["into"], name: words).each { |one|
          came("tag_synonyms", one.id, {"name" => one.name})
        }
        pointers(gone["id"], @undo["into"], words.map(&:downcase))
      end

      # What sets that fill themselves point to: to the one that stayed, since.
      def pointers(from, into, words)
        @entry.library.brush_sets.where("pointers -> 'tag' IS NOT NULL").find_each do |set|
          was = set.pointers["tag"].to_h { |word, ids|
            [
              word,
              if words.include?(word)
                ids.map {
                  (_1 == into) ? from : _1
                }
              else
                ids
              end
            ]
          }
          next if was == set.pointers["tag"]
          changed("brush_sets", set.id, {"pointers" => set.pointers.merge("tag" => was)}, {"pointers" => set.pointers})
        end
      end

      def sorted
        column = (@entry.kind == "family") ? "family_id" : "label_id"
        @undo["before"].each { |id, was| changed("presets", id, {column => was}, {column => @undo["after"]}) }
      end

      SHOWN = {"hidden_at" => nil, "hidden_by_id" => nil}.freeze
      private_constant :SHOWN

      # When and by whom, if it is hidden by this deed until now; else about when this was done.
      def hidden(ids)
        now = now_hidden(ids)
        ids.each do |id|
          changed("presets", id, SHOWN, by_this?(now.dig(id, "hidden_at")) ? now[id] : then_hidden)
        end
      end

      def by_this?(time) = time && (Time.iso8601("#{time}Z") - @entry.created_at).abs < 60

      def then_hidden
        {"hidden_at" => @entry.created_at.strftime("%Y-%m-%dT%H:%M:%S.%6N"), "hidden_by_id" => @entry.person_id}
      end

      # Back to how the deed before had left it.
      def shown(ids)
        ids.each { |id| changed("presets", id, hidden_before(id), SHOWN) }
      end

      def hidden_before(id)
        name = "presets:#{id}"
        earlier = @entry.library.ledger_entries.where(
          "id < ? AND touched && ARRAY[?]",
          @entry.id,
          "#{name}:hidden_at"
        ).last
        earlier ? earlier.what_changed.list.find {
          "#{_1.table}:#{_1.key}" == name && _1.after&.key?("hidden_at")
        }.after : then_hidden
      end

      def now_hidden(ids)
        Table.named("presets").rows(Models::Preset.where(id: ids), %w[hidden_at hidden_by_id]).transform_keys(&:to_i)
      end

      def presets(ids)
        left = Models::Edition.where(preset_id: ids).group(:preset_id).minimum(:id)
        last = Models::Preset.where(id: ids).pluck(:id, :current_edition_id).to_h
        histories = @undo.fetch("histories", {})
        ids.each do |id|
          brought = histories[id.to_s]
          edition = brought ? Models::Edition.where(preset_id: id).order(:id).offset(brought - 1).pick(:id) : left[id]
          came("presets", id, {"current_edition_id" => edition || last[id]})
        end
      end

      # Those that they came with: all but what was hung on since.
      def tags_of_copies
        later = @entry.later.where(kind: "tag").map(&:undo)
        since = later.flat_map { |undo| undo.key?("tag") ? undo["presets"].map { [undo["tag"], _1] } : [] }
        Models::Tagging.where(preset_id: @undo["presets"]).pluck(:tag_id, :preset_id) - since
      end

      def order(table, id, was)
        sections = (was["sections"] || {}).transform_keys(&:to_i)
        now = model(table).find_by(id:)
        headed = now.respond_to?(:section_by_preset) ? now.section_by_preset : {}
        before = was["before"].map { {"preset" => _1, "section" => sections[_1]} }
        after = was["after"].map { {"preset" => _1, "section" => headed.fetch(_1, nil)} }
        add(table, id, {"items" => before}, {"items" => after}) if before != after
      end

      def model(table) = Table.named(table).model

      def split
        made = Models::BrushSet.find_by(id: @undo["made"])
        came("brush_sets", @undo["made"], made ? {"name" => made.name} : {})
        @undo["ids"].each { came("set_items", "#{@undo["made"]}-#{_1}") }
        order("brush_sets", @undo["set"], @undo)
      end

      def bundle
        order("bundles", @undo["bundle"], @undo)
        now = Models::Bundle.where(id: @undo["bundle"]).pick(:cover_id)
        if now != @undo["cover"]
          changed(
            "bundles",
            @undo["bundle"],
            {"cover_id" => @undo["cover"]},
            {"cover_id" => now}
          )
        end
      end

      HOLDERS = {"BrushSet" => "brush_sets", "Seat" => "seats", "Bundle" => "bundles"}.freeze
      private_constant :HOLDERS

      def places = @undo["places"].each { |place| order(HOLDERS.fetch(place["kind"]), place["id"], place) }

      def editions(list)
        list.each { |id, before, after|
          changed("presets", id, {"current_edition_id" => before}, {"current_edition_id" => after})
        }
      end

      def drafts
        made = @undo["made"].to_h
        person = @entry.person_id
        was = @undo["drafts"].index_by { _1["preset_id"] }
        (was.keys | made.keys).each do |id|
          key = "#{person}-#{id}"
          now = made[id] && {"fingerprint" => made[id]}
          before = was[id]&.merge(
            "person_id" => person,
            "id" => new_draft,
            "created_at" => @entry.created_at,
            "updated_at" => @entry.created_at
          )
          next if before.nil? && now.nil?
          next add("drafts", key, before.slice("base_edition_id", "document", "fingerprint"), now) if before && now
          add("drafts", key, before && JSON.parse(before.to_json), now)
        end
      end

      def new_draft = Models::Record.connection.select_value("SELECT nextval('drafts_id_seq')")

      def new_id = Models::Record.connection.select_value("SELECT nextval('tag_synonyms_id_seq')")

      def locked
        return unless @undo.key?("after")
        changed("presets", @undo["preset"], {"locked_by_id" => @undo["before"]}, {"locked_by_id" => @undo["after"]})
      end

      REMOVED = {
        "Set" => "brush_sets",
        "Family" => "families",
        "Label" => "labels",
        "Tag" => "tags",
        "Bundle" => "bundles",
        "Recipe" => "recipes"
      }.freeze
      private_constant :REMOVED

      def removed
        table = REMOVED.fetch(@undo["what"])
        record = @undo["record"]
        hung(table, record)
        Array(@undo["synonyms"]).each { |word|
          went("tag_synonyms", new_id, {"tag_id" => record["id"], "library_id" => record["library_id"], "name" => word})
        }
        held = @undo["ids"]&.map { |id| {"preset" => id, "section" => @undo["sections"][id.to_s]} }
        went(table, record["id"], held ? record.merge("items" => held) : record)
      end

      def hung(table, record)
        column = {"families" => "family_id", "labels" => "label_id"}[table] or return
        Array(@undo["presets"]).each { |id|
          changed("presets", id, {column => record["id"]}, {column => record["parent_id"]})
        }
        Array(@undo["below"]).each { |id|
          changed("families", id, {"parent_id" => record["id"]}, {"parent_id" => record["parent_id"]})
        }
      end

      def imported
        presets(@undo["presets"])
        editions(@undo["editions"])
        hidden(@undo["hidden"])
        shown(@undo["shown"])
        places
        %w[families labels tags recipes].each { |table|
          Array(@undo[table]).each { |id|
            came(table, id, named(table, id))
          }
        }
        @undo["sets"].each { |id| came("brush_sets", id, named("brush_sets", id)) }
        @undo["set_items"].each { |set, ids| ids.each { came("set_items", "#{set}-#{_1}") } }
        @undo.fetch("orders", []).each { |was| order("brush_sets", was["set"], was) }
        held
        taggings(@undo["taggings"])
        @undo.fetch("canvas", []).each { |was| canvas(was["before"], was["after"]) }
      end

      # What was changed since is told by what holds it.
      def named(table, id) = model(table).where(id:).pluck(:name).map { {"name" => _1} }.first || {}

      def held
        @undo.fetch("bundles", []).each { |was|
          came("bundles", was["id"], {"releases" => was["releases"], "items" => items("bundles", was)})
        }
        @undo.fetch("seats", []).each { |was|
          came("seats", was["id"], {"handed_out_at" => nil, "items" => items("seats", was)})
        }
      end

      def items(table, was)
        now = model(table).find_by(id: was["id"])
        sections = now.respond_to?(:section_by_preset) ? now.section_by_preset : {}
        was["brushes"].map { {"preset" => _1, "section" => sections[_1]} }
      end

      def canvas(before, after)
        sides = ->(canvas) { {"canvas_width" => canvas["width"], "canvas_height" => canvas["height"]} }
        changed("libraries", @entry.library_id, sides[before], sides[after])
      end
    end
  end
end
