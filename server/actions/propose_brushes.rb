# frozen_string_literal: true

module Fobrel
  module Actions
    # Proposes brushes to a library: its leads decide. Nothing is published by it.
    class ProposeBrushes < Action
      # What is proposed, and what it was taken from.
      Proposed = Struct.new(:value, :came_from)

      # @param presets [Array<Models::Preset>]
      # @param person [Models::Person]
      # @param drafts [Boolean] whether the person's own drafts of them are meant
      # @return [Array<Proposed>]
      def self.picked(presets, person, drafts)
        presets.map do |preset|
          draft = preset.drafts.find_by(person:) if drafts
          version = preset.current_version
          Proposed.new((draft || version).value, {**TakeBrushes.came_from(preset, version), draft: !draft.nil?})
        end
      end

      # @param library [Models::Library] to which
      # @param picked [Array<Proposed>]
      # @param sentence [String] why
      def initialize(library:, person:, picked:, sentence:)
        @library = library
        @person = person
        @picked = picked
        @sentence = sentence
      end

      # @return [Models::Proposal]
      # @raise [Core::Problem]
      def call
        raise Core::Problem, "Select the brushes to propose." if @picked.empty?
        if @picked.size > Models::Proposal::MOST
          raise Core::Problem, "A proposal has at most #{Models::Proposal::MOST} brushes. Nothing was proposed."
        end
        proposal = Models::Proposal.create!(library: @library, person: @person, sentence: @sentence)
        @picked.each { |one| add(proposal, one) }
        tell(proposal)
        proposal
      end

      private

      def add(proposal, one)
        value = one.value
        same = @library.presets.shown.find_by(document_id: value.id)
        if same && value.alike?(same.current_version.value)
          raise Core::Problem, "“#{value.name}” is in “#{@library.name}” already. Nothing was proposed."
        end
        proposal.items.create!(document: value.to_h, fingerprint: value.fingerprint, came_from: one.came_from)
      end

      def tell(proposal)
        leads = @library.people.here.where(memberships: {role: "lead"}).to_a
        count = proposal.items.size
        what = (count == 1) ? "“#{proposal.items.first.value.name}”" : brushes(count)
        Models::HistoryEntry.write(@library, @person, "proposal", "#{@person.name} proposed #{what}")
        Models::Notice.tell(
          leads,
          library: @library,
          kind: "proposal",
          except: @person,
          path: "/sharing/proposals?proposal=#{proposal.id}",
          text: "#{@person.name} proposes #{what} to “#{@library.name}”#{": #{@sentence}" unless @sentence.empty?}"
        )
        Models::Live.tell(what: "library", library: @library.id)
      end
    end
  end
end
