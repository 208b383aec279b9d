# frozen_string_literal: true

module Fobrel
  module Actions
    # Offers brushes to a library: its leads decide. Nothing is published by it.
    class OfferBrushes < Action
      # What is offered, and what it was taken from.
      Offered = Struct.new(:value, :came_from)

      # @param presets [Array<Models::Preset>]
      # @param person [Models::Person]
      # @param drafts [Boolean] whether the person's own drafts of them are meant
      # @return [Array<Offered>]
      def self.picked(presets, person, drafts)
        presets.map do |preset|
          draft = preset.drafts.find_by(person:) if drafts
          edition = preset.current_edition
          Offered.new((draft || edition).value, {**TakeBrushes.came_from(preset, edition), draft: !draft.nil?})
        end
      end

      # @param library [Models::Library] to which
      # @param picked [Array<Offered>]
      # @param sentence [String] why
      def initialize(library:, person:, picked:, sentence:)
        @library = library
        @person = person
        @picked = picked
        @sentence = sentence
      end

      # @return [Models::Offer]
      # @raise [Core::Problem]
      def call
        raise Core::Problem, "Select the brushes to propose." if @picked.empty?
        if @picked.size > Models::Offer::MOST
          raise Core::Problem, "A proposal has at most #{Models::Offer::MOST} brushes. Nothing was proposed."
        end
        offer = Models::Offer.create!(library: @library, person: @person, sentence: @sentence)
        @picked.each { |one| add(offer, one) }
        tell(offer)
        offer
      end

      private

      def add(offer, one)
        value = one.value
        same = @library.presets.shown.find_by(document_id: value.id)
        if same && value.alike?(same.current_edition.value)
          raise Core::Problem, "“#{value.name}” is in “#{@library.name}” already. Nothing was proposed."
        end
        offer.items.create!(document: value.to_h, fingerprint: value.fingerprint, came_from: one.came_from)
      end

      def tell(offer)
        leads = @library.people.here.where(memberships: {role: "lead"}).to_a
        count = offer.items.size
        what = (count == 1) ? "“#{offer.items.first.value.name}”" : brushes(count)
        Models::LedgerEntry.write(@library, @person, "offer", "#{@person.name} proposed #{what}")
        Models::Notice.tell(
          leads,
          library: @library,
          kind: "offer",
          except: @person,
          path: "/sharing/proposals?offer=#{offer.id}",
          text: "#{@person.name} proposes #{what} to “#{@library.name}”#{": #{@sentence}" unless @sentence.empty?}"
        )
        Models::Live.tell(what: "library", library: @library.id)
      end
    end
  end
end
