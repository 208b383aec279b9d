# frozen_string_literal: true

module Fobrel
  module Actions
    # Writes the next version of one preset and makes it current.
    class AddVersion < Action
      # @param preset [Models::Preset]
      # @param value [Core::Preset::Preset]
      # @param number [Integer, nil] nil takes the next one
      # @raise as AddVersions
      def initialize(preset:, value:, person:, note: "", number: nil)
        @item = AddVersions::Item.new(preset, value, note, number)
        @person = person
      end

      # @return [Models::Version]
      def call
        id = AddVersions.call(items: [@item], person: @person).first
        @item.preset.reload
        Models::Version.find(id)
      end
    end
  end
end
