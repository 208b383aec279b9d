# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # Settings that were written under another name before. They are read either way and always
      # written the new way, so a document and its fingerprint are those of the new writing.
      #
      #   Earlier.rewritten({"pigment" => {"charge" => 0.4}})  # => {"pigment" => {"own_paint" => 0.4}}
      module Earlier
        # A setting's group, its name then and its name now.
        RENAMED = [%w[pigment charge own_paint]].freeze

        # @param document [Object] a preset's document, or anything that was given for one
        # @return [Object] the very same object where nothing in it is of an earlier writing
        def self.rewritten(document)
          return document unless document.is_a?(Hash)
          RENAMED.inject(document) do |now, (group, was, name)|
            settings = now[group]
            next now unless settings.is_a?(Hash) && settings.key?(was)
            # Where both are there the new one counts; its place among the others stays.
            settings = settings.except(was) if settings.key?(name)
            now.merge(group => settings.transform_keys { (_1 == was) ? name : _1 })
          end
        end

        # For texts that name settings, such as recipes.
        #
        # @param document [Hash] a preset's document
        # @return [Hash] with its renamed settings under both names
        def self.under_both_names(document)
          RENAMED.inject(document) do |now, (group, was, name)|
            now[group]&.key?(name) ? now.merge(group => now[group].merge(was => now[group][name])) : now
          end
        end
      end
    end
  end
end
