# frozen_string_literal: true

module Fobrel
  module Actions
    # Names a part, tags it, lays it on a shelf; discards or restores it.
    class ChangePart < Deed
      # @param sum [String]
      # @param wish [Hash] "name", "tags", "own", "hidden"
      def initialize(library:, person:, sum:, wish:)
        @library = library
        @person = person
        @sum = sum
        @wish = wish
      end

      # @return [Models::HistoryEntry]
      # @raise [ActiveRecord::RecordNotFound]
      def call
        part = @library.parts.seen_by(@person).find_by(sha256: @sum)
        refuse_used if @wish["hidden"]
        refuse_taking if @wish["own"] && part && part.person_id.nil?
        return named(@library.parts.new(sha256: @sum)) unless part
        changes.watch(Models::Part.where(id: part.id)) { part.update!(**changed(part)) }
        write_down(@library, @person, "part", said(part))
      end

      private

      # A picture that brushes need gets a name of its own for the first time.
      def named(part)
        raise ActiveRecord::RecordNotFound if @library.pictures_needed([@sum]).empty?
        asset = Models::Asset.find(@sum)
        kind = Models::Part.kind_of(asset.ext, grain: grain?)
        part.update!(kind:, ext: asset.ext, name: @wish["name"].presence || "A part", **changed(part).except(:name))
        changes.came(Models::Part.where(id: part.id))
        write_down(@library, @person, "part", "“#{part.name}” named on the shelf of parts")
      end

      def changed(part)
        {
          name: @wish.fetch("name", part.name),
          tags: @wish.fetch("tags", part.tags).map { |tag| Core::Names.clean(tag)[0, 60] }.reject(&:empty?).uniq,
          person_id: @wish.key?("own") ? (@person.id if @wish["own"]) : part.person_id,
          hidden_at: @wish.key?("hidden") ? (Time.current if @wish["hidden"]) : part.hidden_at
        }
      end

      def said(part)
        return "“#{part.name}” deleted" if @wish["hidden"]
        return "“#{part.name}” restored to Tips and grains" if @wish.key?("hidden")
        "“#{part.name}” changed on the shelf of parts"
      end

      # Others may use it by now.
      def refuse_taking
        raise Core::Problem,
          "This part lies on the library's shelf, where others find it. It stays there. Make one of your own from it " \
            "in the tip maker."
      end

      def refuse_used
        count = @library.brushes_with(@sum).count
        return if count.zero?
        raise Core::Problem,
          "#{brushes(count)} #{(count == 1) ? "needs" : "need"} this part. It stays. Exchange it there first."
      end

      def grain?
        @library.brushes_with(@sum).joins(:current_version)
          .exists?(["versions.document #>> '{grain,asset}' = ?", Core::Sum.reference(@sum)])
      end
    end
  end
end
