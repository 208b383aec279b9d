# frozen_string_literal: true

module Fobrel
  module Models
    # A numbered, saved state of a preset. It never changes.
    class Version < Record
      belongs_to :preset
      belongs_to :person, optional: true
      has_one :version_name

      def readonly? = persisted?

      # The greatest size that brushes paint at, for strips that are shown together.
      #
      # @param prints [Array<String>] fingerprints of versions
      # @return [Hash{String => Float}] px by fingerprint
      def self.greatest(prints)
        select("DISTINCT ON (fingerprint) id, fingerprint, document").where(fingerprint: prints)
          .to_h { [_1.fingerprint, Core::Stroke::Strip.greatest(_1.value)] }
      end

      # @return [Core::Preset::Preset]
      def value = Core::Preset::Preset.restore(document)
    end
  end
end
