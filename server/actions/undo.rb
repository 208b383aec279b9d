# frozen_string_literal: true

module Fobrel
  module Actions
    # Takes back what the ledger wrote down, keeping what people changed since.
    class Undo < Action
      KINDS = {
        "tag" => :untag,
        "untag" => :retag,
        "set" => :set_back,
        "reset" => :bring_back,
        "start plan" => :plan_back,
        "import" => :take_out,
        "restore" => :bring_back,
        "home" => :home_back,
        "fit" => :bring_back,
        "copy settings" => :bring_back,
        "lock" => :lock_back,
        "rename" => :bring_back,
        "family" => :sort_back,
        "label" => :sort_back,
        "hide" => :show_again,
        "bring back" => :hide_again,
        "duplicate" => :take_copies,
        "merge tags" => :part_tags,
        "doubles" => :doubles_back,
        "remove" => :make_again,
        "split" => :join_again,
        "bundle" => :bundle_back
      }.freeze

      # @param entry [Models::LedgerEntry]
      def initialize(entry:, person:)
        @entry = entry
        @person = person
        @undo = entry.undo
      end

      # @return [Array<String>] what could not be taken back, one sentence each
      def call
        @entry.lock!
        raise Core::Problem, "This was undone already. Nothing was changed." if @entry.undone_at
        unless @entry.open?
          raise Core::Problem,
            "The undo of “#{@entry.summary}” was kept for as long as this library's rules say, and is gone. Nothing " \
              "was changed."
        end
        way = KINDS[@entry.kind] or raise Core::Problem, "“#{@entry.summary}” cannot be undone. Nothing was changed."
        @kept = []
        send(way)
        @entry.update!(undone_at: Time.current)
        @kept
      end

      private

      def untag = Models::Tagging.where(tag_id: @undo["tag"], preset_id: still(%w[tag untag], "tag")).delete_all

      def retag
        return @kept << "The tag is no longer there." unless Models::Tag.exists?(@undo["tag"])
        ids = Models::Preset.where(id: still(%w[tag untag], "tag")).ids
        Models::Tagging.insert_all(ids.map { {tag_id: @undo["tag"], preset_id: _1} }) if ids.any?
      end

      # What nobody has done the like to since: a newer deed is not taken back with an older one.
      #
      # @param kinds [Array<String>] of later deeds
      # @param same [String, nil] what of the entry they must have in common
      # @return [Array<Integer>] presets
      def still(kinds, same = nil)
        later = @entry.library.ledger_entries.where(kind: kinds, undone_at: nil).where("id > ?", @entry.id).map(&:undo)
        later.select! { _1[same] == @undo[same] } if same
        since = @undo["presets"] & later.flat_map { _1["presets"] }
        if since.any?
          @kept << "#{brushes(since.size)} had the like done again since and " \
            "#{(since.size == 1) ? "stays as it is" : "stay as they are"}."
        end
        @undo["presets"] - since
      end

      def set_back
        set = Models::BrushSet.find_by(id: @undo["set"])
        set ? order_back(set) : @kept << "The set is no longer there."
      end

      # Its cover too, if it was taken out with its brush.
      def bundle_back
        bundle = Models::Bundle.find_by(id: @undo["bundle"]) or return @kept << "The bundle is no longer there."
        order_back(bundle)
        bundle.update!(cover_id: @undo["cover"]) if bundle.cover_id.nil? && bundle.preset_ids_in_order.include?(@undo["cover"])
      end

      def join_again
        made = Models::BrushSet.find_by(id: @undo["made"])
        set_back
        return unless made
        (made.preset_ids_in_order == @undo["ids"]) ? made.destroy! : @kept << "“#{made.name}” has been changed " \
          "since; it stays."
      end

      def plan_back = order_back(Models::Seat.find(@undo["seat"]))

      # What others added since stays, at the end.
      def order_back(holder, was = @undo)
        since = holder.preset_ids_in_order - was["after"]
        alive = holder.library.presets.where(id: was["before"] + since).ids
        order = (was["before"] + since).uniq & alive
        return holder.put_in_order(order) unless was["sections"]
        holder.put_in_order(order, holder.section_by_preset.slice(*since).merge(was["sections"].transform_keys(&:to_i)))
      end

      # Under its old number, so that what still speaks of it finds it.
      def make_again
        model, = Remove::KINDS.fetch(@undo["what"])
        record = model.create!(@undo["record"].merge(gone_since))
        alive = @entry.library.presets.ids
        record.put_in_order(@undo["ids"] & alive, @undo["sections"].transform_keys(&:to_i)) if @undo.key?("ids")
        Array(@undo["synonyms"]).each { record.synonyms.create!(library_id: record.library_id, name: _1) }
        hang_again(record) if @undo.key?("presets")
        family_back(record) if record.is_a?(Models::Family)
      end

      # Of two that hung below each other, whichever comes back first waits at the top for the other.
      def family_back(family)
        others = @entry.library.ledger_entries.where(kind: "remove").where.not(id: @entry.id).map(&:undo).select {
          _1["what"] == "Family"
        }
        waiting = others.filter_map { _1.dig("record", "id") if _1.dig("record", "parent_id") == family.id }
        Models::Family.where(id: waiting, parent_id: [nil, family.parent_id].uniq).update_all(parent_id: family.id)
        above = others.find {
          _1["below"].include?(family.id) && _1.dig(
            "record",
            "parent_id"
          ) == family.parent_id && Models::Family.exists?(_1.dig("record", "id"))
        }
        family.update!(parent_id: above.dig("record", "id")) if above
      end

      # What it pointed to may not be there any more.
      def gone_since
        {"cover_id" => Models::Preset, "parent_id" => Models::Family}.select { |column, model|
          @undo["record"][column] && !model.exists?(@undo["record"][column])
        }.transform_values { nil }
      end

      # What nobody has hung elsewhere since.
      def hang_again(record)
        column = "#{@undo["what"].downcase}_id"
        Models::Preset.where(
          :id => @undo["presets"],
          column => @undo["record"]["parent_id"]
        ).update_all(column => record.id)
        if @undo.key?("below")
          Models::Family.where(
            id: @undo["below"],
            parent_id: @undo["record"]["parent_id"]
          ).update_all(parent_id: record.id)
        end
      end

      def sort_back
        column = SortPresets::KINDS.fetch(@entry.kind)
        @undo["before"].group_by(&:last).each do |was, pairs|
          Models::Preset.where(:id => pairs.map(&:first), column => @undo["after"]).update_all(column => was)
        end
      end

      HIDING = ["hide", "bring back", "doubles"].freeze
      private_constant :HIDING

      def show_again = Models::Preset.where(id: still(HIDING)).update_all(hidden_at: nil, hidden_by_id: nil)

      def hide_again
        Models::Preset.where(id: still(HIDING)).update_all(hidden_at: Time.current, hidden_by_id: @person.id)
      end

      def take_copies = take_out_presets(Models::Preset.where(id: @undo["presets"]))

      def part_tags
        gone = @undo["gone"]
        into = Models::Tag.find_by(id: @undo["into"]) or return @kept << "The tag it was merged into is gone."
        words = [gone["name"], *gone["synonyms"]]
        into.synonyms.where(name: words).delete_all
        name = free_word(gone["name"])
        @kept << "“#{gone["name"]}” is another tag’s word by now; it came back as “#{name}”." if name != gone["name"]
        tag = @entry.library.tags.create!(gone.slice("id", "colour", "shape").merge("name" => name))
        gone["synonyms"].each { |word|
          tag.synonyms.create!(library_id: tag.library_id, name: word) if free_word(word) == word
        }
        Models::Standing.repoint(@entry.library, into.id, tag.id, words: words.map(&:downcase))
        alive = @entry.library.presets.where(id: @undo["had"]).ids
        tag.taggings.insert_all!(alive.map { {preset_id: _1} }) if alive.any?
        into.taggings.where(preset_id: @undo["fresh"]).delete_all
      end

      # A word that finds no tag yet: this, or with the next free number.
      def free_word(word)
        [word].chain((2..).lazy.map { "#{word} #{_1}" }).find do |name|
          @entry.library.tags.where(
            "lower(name) = lower(?)",
            name
          ).none? && Models::TagSynonym.where(library_id: @entry.library_id).where(
            "lower(name) = lower(?)",
            name
          ).none?
        end
      end

      def doubles_back
        show_again
        places_back
      end

      def places_back
        @undo["places"].reverse_each do |place|
          holder = KeepDouble::HOLDERS.fetch(place["kind"]).find_by(id: place["id"]) or next
          order_back(holder, place)
        end
      end

      def bring_back
        editions_back
        drafts_back
      end

      def editions_back
        presets = Models::Preset.where(id: @undo["editions"].map(&:first)).order(:id).lock.index_by(&:id)
        back = @undo["editions"].select { |id, _, after| presets[id]&.current_edition_id == after }
        (@undo["editions"] - back).each { |id, _, _|
          @kept << "“#{presets[id]&.name}” was saved again since; it stays as it is."
        }
        pairs = back.map { |id, before, _| "(#{Integer(id)}, #{Integer(before)})" }
        if pairs.any?
          Models::Record.connection.execute(
            "UPDATE presets SET current_edition_id = v.edition FROM (VALUES #{pairs.join(", ")}) AS v(id, edition) " \
              "WHERE presets.id = v.id"
          )
        end
        Models::Preset.settle(back.map(&:first))
      end

      # Drafts that the deed made go, unless they were changed since; those it replaced return.
      def drafts_back
        made = @undo["made"].to_h
        mine = Models::Draft.where(person_id: @entry.person_id, preset_id: made.keys)
        mine.each { |draft| draft.destroy! if draft.fingerprint == made[draft.preset_id] }
        @undo["drafts"].each do |draft|
          found = Models::Draft.find_or_initialize_by(person_id: @entry.person_id, preset_id: draft["preset_id"])
          next @kept << "“#{found.preset.name}” has newer changes of yours; they stay." if found.persisted?
          found.update!(draft)
        end
      end

      def home_back
        preset = Models::Preset.lock.find(@undo["preset"])
        return @kept << "“#{preset.name}” has another home since; it stays." unless preset.home_edition_id == @undo["after"]
        preset.update!(home_edition_id: @undo["before"])
        Models::Preset.settle([preset.id])
      end

      # Under the name of whoever had locked it.
      def lock_back
        preset = Models::Preset.lock.find(@undo["preset"])
        return @kept << "Who had locked “#{preset.name}” was not written down then; it stays as it is." unless @undo.key?("after")
        if preset.locked_by_id != @undo["after"]
          return @kept << "“#{preset.name}” was #{preset.locked_by_id ? "locked" : "unlocked"} by somebody since; it " \
            "stays so."
        end
        preset.update!(locked_by_id: @undo["before"])
      end

      # What an arrival brought, in the opposite order of its coming.
      def take_out
        @undo.fetch("orders", []).each do |was|
          set = Models::BrushSet.find_by(id: was["set"]) and order_back(set, was)
        end
        pairs = @undo["set_items"].flat_map { |set, ids| ids.map { |id| "(#{Integer(set)}, #{Integer(id)})" } }
        pairs.each_slice(2000) { |some|
          Models::SetItem.where("(brush_set_id, preset_id) IN (VALUES #{some.join(", ")})").delete_all
        }
        places_back
        Models::Preset.where(id: @undo["hidden"]).update_all(hidden_at: nil, hidden_by_id: nil)
        Models::Preset.where(id: @undo["shown"]).update_all(hidden_at: Time.current, hidden_by_id: @person.id)
        editions_back
        taggings = @undo["taggings"].to_set
        Models::Tagging.where(tag_id: taggings.map(&:first), preset_id: taggings.map(&:last)).each { |tagging|
          tagging.destroy! if taggings.include?([tagging.tag_id, tagging.preset_id])
        }
        @undo.fetch("canvas", []).each { |was|
          @entry.library.update!(canvas: was["before"]) if @entry.library.canvas == was["after"]
        }
        bundles_out
        seats_out
        take_out_presets(Models::Preset.where(id: @undo["presets"]))
        Models::BrushSet.where(id: @undo["sets"]).where.missing(:items).where(
          "query IS NULL OR updated_at <= created_at"
        ).delete_all
        Models::Tag.where(id: @undo["tags"]).select { _1.taggings.none? }.each(&:destroy!)
        recipes_out
        # The lowest branches first.
        Models::Family.where(id: @undo["families"]).order(id: :desc).each { |family|
          family.destroy! unless family.children.any? || Models::Preset.exists?(family_id: family.id)
        }
        Models::Label.where(id: @undo["labels"]).each { |label|
          label.destroy! unless Models::Preset.exists?(label_id: label.id)
        }
      end

      def touched?(record) = record.updated_at > record.created_at

      def bundles_out
        @undo.fetch("bundles", []).each do |was|
          bundle = Models::Bundle.find_by(id: was["id"]) or next
          used = bundle.preset_ids_in_order != was["brushes"] || bundle.releases.ids != was["releases"] || Models::Export.exists?(release_id: was["releases"])
          next @kept << "The bundle “#{bundle.name}” has been changed or used since; it stays." if used
          Models::Release.where(bundle:).delete_all
          bundle.destroy!
        end
      end

      def seats_out
        @undo.fetch("seats", []).each do |was|
          seat = Models::Seat.find_by(id: was["id"]) or next
          next @kept << "The start plan of “#{seat.name}” has been changed or handed out since; it stays." if seat.handed_out_at || seat.preset_ids_in_order != was["brushes"]
          seat.destroy!
        end
      end

      # A recipe that somebody has worked on stays.
      def recipes_out
        Models::Recipe.where(id: @undo["recipes"]).each do |recipe|
          touched?(recipe) ? @kept << "The recipe “#{recipe.name}” has been changed since; it stays." : recipe.destroy!
        end
      end

      # What was changed or used since stays.
      def take_out_presets(presets)
        ids = presets.ids
        came = @undo.fetch("histories", {})
        used = Models::Edition.where(preset_id: ids).group(:preset_id).having("count(*) > 1").count.filter_map { |id, count|
          id if count > came.fetch(id.to_s, 1)
        }
        used |= [Models::Draft, Models::SetItem, Models::StartItem, Models::BundleItem].flat_map { |place|
          place.where(preset_id: ids).distinct.pluck(:preset_id)
        }
        Models::Preset.where(id: used).order(:id).pluck(:name).each { |name|
          @kept << "“#{name}” has been changed or used since; it stays."
        }
        DestroyPresets.erase(ids - used)
      end
    end
  end
end
