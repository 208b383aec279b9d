# frozen_string_literal: true

module Fobrel
  module History
    # What an undo leaves as it is, in sentences: brushes by name, what is the like of each other counted.
    class Told
      def initialize
        @sentences = []
        @counted = Hash.new(0)
      end

      # @return [Array<String>]
      def sentences
        @sentences.uniq + @counted.map { |(one, many), count| (count == 1) ? "1 #{one}" : "#{count} #{many}" }
      end

      # A row that somebody changed since.
      def changed(table, change, now)
        return if with_its_holder?(table)
        case change.before.keys.first
        when "current_version_id" then brush(change, "was saved again since; it stays as it is.")
        when "baseline_version_id" then brush(change, "has a newer baseline; it stays.")
        when "locked_by_id" then brush(
          change,
          "was #{now["locked_by_id"] ? "locked" : "unlocked"} by somebody since; it stays so."
        )
        else
          (table.name == "drafts") ? draft(change.key) : again(table)
        end
      end

      # A row that came with the deed and that somebody changed or uses.
      def stays(table, now)
        return if with_its_holder?(table)
        case table.name
        when "taggings" then again(Table.named("presets"))
        when "drafts" then draft(table.key_of(now))
        when /items\z/ then count(
          "place of a brush was changed since and stays.",
          "places of brushes were changed since and stay."
        )
        when "brush_sets" then say("#{the(table, now)} has been changed since; it stays.")
        else say("#{the(table, now)} has been changed or used since; it stays.")
        end
      end

      # A row that came with the deed and that a later one took out.
      def went_since(table) = (again(Table.named("presets")) if table.name == "taggings")

      # A row that cannot come back, for a newer one is in its place.
      def in_the_way(table, row)
        return if %w[taggings set_items start_items bundle_items tag_synonyms].include?(table.name)
        return draft(table.key_of(row)) if table.name == "drafts"
        raise Core::Problem,
          "A #{table.noun} called #{table.called(row)} is already here. Nothing was undone. Rename that one first."
      end

      def gone(table)
        return say("The #{table.noun} is no longer there.") unless table.name.match?(/presets|taggings|items/)
        count("brush is no longer there.", "brushes are no longer there.")
      end

      # What it hung on is gone.
      def lost(table, key)
        return unless table.name == "presets"
        say("What #{brush_called(key)} hung on before is no longer there; it stays where it is.")
      end

      def renamed(was, name) = say("“#{was}” is another tag’s word by now; it came back as “#{name}”.")

      # A synonym that cannot come back.
      def tag_now(name) = say("“#{name}” is a tag by now; it stays one.")

      def reordered(name) = say("“#{name}” has been put in another order since; that order stays.")

      def places(name, size)
        brushes, stay = (size == 1) ? ["brush", "stays as it is"] : ["brushes", "stay as they are"]
        say("#{size} #{brushes} in “#{name}” had the like done again since and #{stay}.")
      end

      private

      # What a library keeps of each brush that it follows is told with the bundle and the brushes themselves.
      def with_its_holder?(table) = table.name == "followed_brushes"

      def say(sentence) = @sentences << sentence

      def brush_called(id) = "“#{Models::Preset.where(id:).pick(:name)}”"

      def count(one, many) = @counted[[one, many]] += 1

      def again(table)
        return say("The #{table.noun} has been changed since; it stays.") unless table.name == "presets"
        count(
          "brush had the like done again since and stays as it is.",
          "brushes had the like done again since and stay as they are."
        )
      end

      def brush(change, words) = say("#{brush_called(change.key)} #{words}")

      def draft(key)
        _, preset = key.split("-")
        say("#{brush_called(preset)} has newer changes of yours; they stay.")
      end

      def the(table, now)
        return table.called(now) if %w[presets brush_sets].include?(table.name)
        (table.name == "desks") ? "The start-up plan of #{table.called(now)}" : "The #{table.noun} #{table.called(now)}"
      end
    end
  end
end
