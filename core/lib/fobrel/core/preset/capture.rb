# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # What may be saved along with a brush though it is state of the moment: off unless asked for.
      module Capture
        # Each item, where it lies in a preset, and what stands there when it is not saved along.
        ITEMS = {
          "colour" => [%w[paint colour], {"mode" => "artist"}],
          "layer" => [%w[extras layer], nil],
          "behind" => [%w[extras behind], false],
          "merge" => [%w[extras merge], true],
          "mirror" => [%w[extras mirror], nil]
        }.freeze

        # @param preset [Preset]
        # @return [Array<String>] the items it holds
        def self.held(preset) = ITEMS.reject { |_, (path, default)| preset[*path] == default }.keys

        # @param preset [Preset]
        # @param keep [Array<String>] of ITEMS
        # @return [Preset] with every other item at its default
        def self.only(preset, keep)
          drop = held(preset) - keep
          return preset if drop.empty?
          Changes.new(drop.map { |item| Changes::Change.new(ITEMS[item][0], nil, ITEMS[item][1]) }).apply(preset)
        end
      end
    end
  end
end
