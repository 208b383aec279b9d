# frozen_string_literal: true

module Fobrel
  module Models
    # A tip, a grain, a drawing or a preview picture by itself, on the library's shelf or on one person's.
    class Part < Record
      KINDS = %w[tip grain drawing picture].freeze

      belongs_to :library
      belongs_to :person, optional: true
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..100}
      validates :kind, inclusion: {in: KINDS}

      scope :shown, -> { where(hidden_at: nil) }
      # What somebody sees: the library's, and their own.
      scope :seen_by, ->(person) { where(person_id: [nil, person.id]) }

      # @param ext [String] of its picture
      # @param grain [Boolean] whether a brush has it for its surface
      # @param preview [Boolean] whether it stands for a brush, which does not paint with it
      # @return [String] one of KINDS
      def self.kind_of(ext, grain:, preview: false)
        return "grain" if grain
        return "picture" if preview
        (ext == "svg") ? "drawing" : "tip"
      end

      # @return [String] "sha256:…"
      def reference = Core::Sum.reference(sha256)
    end
  end
end
