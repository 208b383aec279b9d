# frozen_string_literal: true

module Fobrel
  module Actions
    # Writes the next edition of one preset and makes it current.
    class AddEdition < Action
      # @param preset [Models::Preset]
      # @param value [Core::Preset::Preset]
      # @param number [Integer, nil] nil takes the next one
      # @raise as AddEditions
      def initialize(preset:, value:, person:, note: "", number: nil)
        @item = AddEditions::Item.new(preset, value, note, number)
        @person = person
      end

      # @return [Models::Edition]
      def call
        id = AddEditions.call(items: [@item], person: @person).first
        @item.preset.reload
        Models::Edition.find(id)
      end
    end
  end
end
