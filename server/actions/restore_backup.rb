# frozen_string_literal: true

module Fobrel
  module Actions
    # Brings in what a backup says beside its brushes. What is here already stays as it is.
    class RestoreBackup < Action
      # @param import [Models::Import] of a backup
      # @param changes [History::Changes] of the deed that this is part of
      # @param brushes [Hash{String => Integer}] presets here by their identity in the backup
      # @param facts [Hash{Integer => Hash}] what it says of each preset that was imported anew
      def initialize(import:, person:, changes:, brushes:, facts:)
        @import = import
        @library = import.library
        @said = import.words.fetch("library")
        @person = person
        @changes = changes
        @brushes = brushes
        @facts = facts
        @may = ->(deed) { person.memberships.find_by(library: @library)&.may?(deed) }
        @notes = []
      end

      # @return [Array<String>] a sentence for each thing that was left out
      def call
        canvas
        @said["categories"].each { category(_1) }
        @said["statuses"].each { status(_1) }
        @import.words["tags"].each { tag(_1) }
        sort_in
        Array(@said["parts"]).each { part(_1) }
        @said["bundles"].each { bundle(_1) }
        plans
        @notes
      end

      private

      # A library that was empty takes the backup's own.
      def canvas
        before = @library.canvas
        return if @said["canvas"].nil? || @said["canvas"] == before || !@may[:send_to_desk]
        return if @library.presets.count > @facts.size
        sides = Models::Library.where(id: @library)
        @changes.watch(sides, %w[canvas_width canvas_height]) { @library.update!(canvas: @said["canvas"]) }
      end

      def made(record) = record.tap { @changes.came(record.class.where(id: record)) }

      def category(path)
        (@categories ||= {})[path.map(&:downcase)] ||= path.inject(nil) do |parent_id, name|
          here = called(@library.categories.where(parent_id:), name)
          (here || made(@library.categories.create!(name:, parent_id:, position: @library.categories.count))).id
        end
      end

      def status(said)
        (@statuses ||= {})[said["name"].downcase] ||= (called(@library.statuses, said["name"]) || made_status(said)).id
      end

      def made_status(said)
        position = @library.statuses.count
        made(@library.statuses.create!(name: said["name"], position:, **Models::Looks.of(said, position)))
      end

      def called(records, name) = records.named(Core::Names.clean(name)).first

      # Also those that hang on nothing.
      def tag(said)
        name = said["name"][0, 60]
        return if Models::Tag.find_called(@library, name)
        tag = Models::Tag.called(@library, name, look: said, changes: @changes)
        Array(said["synonyms"]).each do |word|
          free = Models::Tag.find_called(@library, word[0, 60]).nil?
          made(tag.synonyms.create!(library: @library, name: word[0, 60])) if free
        end
      end

      def sort_in
        change(->(facts) { facts["category"] && category(facts["category"]) }) { |category_id| {category_id:} }
        change(->(facts) { facts["status"] && status({"name" => facts["status"]}) }) { |status_id| {status_id:} }
        change(->(facts) { facts["hidden"] }) { {hidden_at: Time.current, hidden_by_id: @person.id} }
        change(->(facts) { facts["locked"] && @may[:lock] }) { {locked_by_id: @person.id} }
        baselines
      end

      # Those whose baseline is not the current version.
      def baselines
        current = Models::Preset.where(id: @facts.keys).joins(:current_version).pluck(:id, "versions.number").to_h
        pairs = @facts.filter_map { |id, facts|
          facts["baseline"] && facts["baseline"] != current[id] && [id, facts["baseline"]]
        }
        pairs.each_slice(2000) do |some|
          values = some.map { |id, number| "(#{id}, #{Integer(number)})" }.join(", ")
          Models::Record.connection.execute(
            "UPDATE presets SET baseline_version_id = e.id FROM (VALUES #{values}) AS v(id, number) " \
              "JOIN versions e ON e.preset_id = v.id AND e.number = v.number WHERE presets.id = v.id"
          )
        end
        Models::Preset.settle(pairs.map(&:first))
      end

      def change(which)
        @facts.group_by { |_, facts|
          which[facts]
        }.each { |found, pairs| Models::Preset.where(id: pairs.map(&:first)).update_all(yield(found)) if found }
      end

      # A part that is here keeps its name; a picture from outside is looked at before it is kept.
      def part(said)
        return if @library.parts.exists?(sha256: said["sha256"], person_id: nil)
        ext = picture_of(said) or return
        words = {kind: said["kind"], tags: Array(said["tags"]), made: said["made"], sha256: said["sha256"], ext:}
        made(@library.parts.create!(name: said["name"], **words))
      end

      # @return [String, nil] the ending of a part's picture, which is kept by now; nil where there is none
      def picture_of(said)
        here = Models::Asset.where(sha256: said["sha256"]).pick(:ext)
        return here if here && @library.pictures_needed([said["sha256"]]).any?
        bytes = said["picture"]&.unpack1("m")
        unless bytes && Core::Sum.of(bytes) == said["sha256"]
          @notes << "The picture of the part “#{said["name"]}” is not in the backup; the part was left out."
          return
        end
        name = "The part “#{said["name"]}”"
        ext = Core::Tip::Page.svg?(bytes) ? Core::Tip::Outside.check_shape(
          bytes,
          name:
        ) : Core::Tip::Outside.check(bytes, name:)
        Models::Asset.keep(bytes, ext) && ext
      rescue Core::Tip::Picture::Unreadable => e
        @notes << e.message
        nil
      end

      def bundle(said)
        here = called(@library.bundles, said["name"])
        return differs(here, said) if here
        ids = said["brushes"].filter_map { @brushes[_1] }.uniq
        cover = @brushes[said["cover"]]
        bundle = @library.bundles.create!(
          name: said["name"],
          description: said["description"].to_s,
          author: said["author"].to_s,
          licence: said["licence"].to_s,
          cover_id: (cover if ids.include?(cover))
        )
        picture(bundle, said["picture"]) if said["picture"]
        bundle.put_in_order(ids, said.fetch("sections", {}).transform_keys { @brushes[_1] }.except(nil))
        releases(bundle, said["releases"].uniq { _1["number"] })
        made(bundle)
      end

      def picture(bundle, coded)
        bundle.keep_picture(coded.unpack1("m"), name: "The cover of “#{bundle.name}”")
      rescue Core::Tip::Picture::Unreadable => e
        @notes << e.message
      end

      def differs(here, said)
        more = said["releases"].map { _1["sha256"] } - here.releases.pluck(:sha256)
        return if more.empty?
        @notes << "The bundle “#{here.name}” is here already and stays as it is; the backup has releases of it that " \
          "are not here."
      end

      RELEASE = <<~SQL
        INSERT INTO releases (bundle_id, number, notes, items, words, sha256, person_id, withdrawn_at, withdrawn_reason,
          created_at, package)
        SELECT :bundle, :number, :notes, :items, :words, :sha256, :person, :withdrawn_at, :reason, :at, bytes
        FROM import_parts WHERE import_id = :import AND sha256 = :sha256 AND ext = 'zip'
      SQL
      private_constant :RELEASE

      def releases(bundle, list)
        return if list.empty?
        unless @may[:send_to_desk]
          return @notes << "The releases of “#{bundle.name}” were left out: only a lead may bring releases. Ask " \
            "one to import this backup into."
        end
        list.each { |said| release(bundle, said) }
      end

      def release(bundle, said)
        words = {"name" => bundle.name}.merge(said["words"].slice("name", *ChangeBundle::WORDS))
        values = {
          bundle: bundle.id,
          number: said["number"],
          notes: said["notes"].to_s,
          items: JSON.generate(said["items"]),
          words: JSON.generate(words),
          sha256: said["sha256"],
          person: people.fetch(said["by"], @person.id),
          withdrawn_at: time(said.dig("withdrawn", "at")),
          reason: said.dig("withdrawn", "reason"),
          at: time(said["at"]),
          import: @import.id
        }
        Models::Record.connection.exec_insert(Models::Record.sanitize_sql([RELEASE, values]))
      end

      # A day that the month does not have is the one it runs on to.
      def time(written) = written && Time.iso8601(written)

      def people = @people ||= @library.memberships.joins(:person).pluck("people.name", :person_id).to_h

      def plans
        wanted = @said["plans"].uniq { |plan| Core::Names.clean(plan["desk"]).downcase }
        wanted.reject! { |plan| called(@library.desks, plan["desk"]) }
        return if wanted.empty?
        return @notes << "Its start-up plans were left out: only a lead may change them." unless @may[:send_to_desk]
        wanted.each do |plan|
          folder = Models::Desk.free_folder(@library, plan["desk"])
          desk = Models::Desk.create!(library: @library, name: plan["desk"], folder:)
          desk.put_in_order(plan["brushes"].filter_map { @brushes[_1] }.uniq)
          made(desk)
        end
      end
    end
  end
end
