# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # The settings in which several brushes differ, side by side, in the words of the screen.
      module Differences
        # @param presets [Array<Preset::Preset>] two or more
        # @return [Array<Array(String, Array<String>)>] each setting's title and its value in each
        def self.of(presets)
          paths = presets.drop(1).flat_map { Preset::Changes.between(presets.first, _1).map(&:path) }.uniq
          documents = presets.map { Preset::Changes.written_out(_1) }
          (paths - [%w[name], Preset::Changes::ORDER]).map do |path|
            [Preset::Wording.title(path), documents.map { Preset::Wording.value(path, Preset::Changes.at(_1, path)) }]
          end
        end
      end
    end
  end
end
