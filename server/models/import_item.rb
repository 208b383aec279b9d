# frozen_string_literal: true

module Fobrel
  module Models
    # One thing in an import: a preset, or what is wrong with it.
    class ImportItem < Record
      belongs_to :import

      scope :without_past, -> { select(*(column_names - ["past"]), "past IS NOT NULL AS backed_up") }

      # @return [Boolean] whether it comes from a backup
      def backed_up? = has_attribute?(:backed_up) ? self[:backed_up] : !past.nil?

      # @return [Core::Preset::Preset]
      def value = Core::Preset::Preset.restore(document)

      # The versions that a backup has of it, but for the current one; see Core::Package::Backup.
      #
      # @return [Array<Hash>] oldest first
      def earlier = versions.select { _1["preset"] }.sort_by { _1["number"] }

      # @return [Hash] what a backup says of the current version
      def told = versions.find { _1["preset"].nil? } || {}

      private

      def versions = past ? past["versions"] : []
    end
  end
end
