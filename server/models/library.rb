# frozen_string_literal: true

module Fobrel
  module Models
    # One studio's or project's brushes.
    class Library < Record
      has_many :memberships
      has_many :presets
      has_many :tags
      has_many :brush_sets
      has_many :seats
      has_many :ledger_entries
      validates :name, presence: true

      # @return [Array<String>] of all presets, for finding the next number
      def preset_names = presets.pluck(:name)
    end
  end
end
