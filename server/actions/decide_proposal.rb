# frozen_string_literal: true

module Fobrel
  module Actions
    # A lead takes a proposed brush, as a new one or as the next version of one that is here; or gives it back with a
    # reason. One decision counts, whoever is first.
    class DecideProposal < Deed
      # @param item [Models::ProposalItem]
      # @param wish [Hash] "as" ("new", "version" or "return"), "reason"; of a new one "name", "tags", "category_id",
      #   "set_id"; of a version "preset_id" and "base", its number now
      def initialize(item:, person:, wish:)
        @item = item
        @proposal = item.proposal
        @library = @proposal.library
        @person = person
        @wish = wish
      end

      # @return [Models::HistoryEntry]
      # @raise [Overtaken, Core::Problem, AddVersions::Locked]
      def call
        @library.hold
        @proposal.lock!
        @item.lock!
        refuse_decided
        (@wish["as"] == "return") ? give_back : accept
      end

      private

      def refuse_decided
        if @proposal.withdrawn_at
          raise Overtaken,
            "#{@proposal.person.name} has withdrawn this proposal. Nothing was changed."
        end
        return if @item.state == "open"
        said = (@item.state == "accepted") ? "accepted" : "returned"
        raise Overtaken, "#{@item.decided_by.name} has #{said} this one already. Nothing was changed by you."
      end

      def give_back
        reason = @wish["reason"].to_s.strip
        raise Core::Problem, "Say why it is returned, in a sentence. Nothing was changed." if reason.empty?
        decide("returned", reason:)
        tell("returned “#{@item.value.name}”: #{reason}")
        write_down(
          @library,
          @person,
          "proposal",
          "“#{@item.value.name}” of #{@proposal.person.name} returned: #{reason}"
        )
      end

      def accept
        preset, version, how = (@wish["as"] == "version") ? as_version : as_new
        decide("accepted", made_id: preset.id, version:, reason: @wish["reason"].presence)
        tell("accepted “#{@item.value.name}” #{how}#{": #{@wish["reason"]}" if @wish["reason"].present?}")
        write_down(@library, @person, "proposal", "“#{preset.name}” of #{@proposal.person.name} accepted #{how}")
      end

      def decide(state, **more)
        @item.update!(state:, decided_by: @person, decided_at: Time.current, **more)
        @proposal.touch
        Models::Live.tell(what: "library", library: @library.id)
      end

      def note = ["Proposed by #{@proposal.person.name}", @proposal.sentence.presence].compact.join(": ")

      def as_version
        preset = @library.presets.shown.lock.find(@wish["preset_id"])
        current = preset.current_version
        unless current.number == @wish["base"]
          raise Overtaken,
            "“#{preset.name}” is at version #{current.number} now. Nothing was changed. Look at both once more."
        end
        document = @item.document.merge("id" => preset.document_id, "name" => preset.name)
        value = Core::Preset::Preset.restore(document)
        if value.alike?(current.value)
          raise Core::Problem, "“#{preset.name}” is just like this already. Nothing was changed."
        end
        version = changes.watch(Models::Preset.where(id: preset), %w[current_version_id came_from]) do
          made = AddVersion.call(preset:, value:, person: @person, note:)
          preset.update!(came_from: @item.came_from) unless own?
          made
        end
        [preset, version.number, "as version #{version.number}"]
      end

      # A brush of this very library that was tuned is from nowhere else.
      def own? = @item.came_from["library"] == @library.id

      def as_new
        name = Core::Names.clean(@wish["name"].presence || @item.value.name)
        names = @library.preset_names_like(name)
        name = Core::Curation::Numbering.next_name(name, names) if names.any? { |one| one.casecmp?(name) }
        id = @item.value.id
        id = SecureRandom.uuid if @library.presets.exists?(document_id: id)
        value = Core::Preset::Preset[@item.document.merge("id" => id, "name" => name)]
        preset = CreatePreset.call(library: @library, value:, person: @person, note:, origin: "received")
        preset.update!(came_from: @item.came_from, category: category)
        changes.came(Models::Preset.where(id: preset.id))
        tag(preset)
        into_set(preset)
        [preset, 1, "as new brush"]
      end

      def category = @wish["category_id"] && @library.categories.find(@wish["category_id"])

      def tag(preset)
        @wish.fetch("tags", []).each { |one|
          Models::Tag.called(@library, one, changes:).taggings.find_or_create_by!(preset:)
        }
        changes.came(Models::Tagging.where(preset:))
      end

      def into_set(preset)
        set = @wish["set_id"] && @library.brush_sets.where(query: nil).find(@wish["set_id"]) or return
        changes.watch_order(set) { set.put_in_order(set.preset_ids_in_order + [preset.id]) }
      end

      def tell(what)
        Models::Notice.tell(
          [@proposal.person],
          library: @library,
          kind: "answer",
          except: @person,
          path: "/sharing/proposals?proposal=#{@proposal.id}",
          text: "#{@person.name} #{what}"
        )
      end
    end
  end
end
