# frozen_string_literal: true

module Fobrel
  module Models
    # A tip, a grain or a drawing by itself, on the library's shelf or on one person's.
    class Part < Record
      KINDS = %w[tip grain drawing].freeze

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
      # @return [String] one of KINDS
      def self.kind_of(ext, grain:)
        return "grain" if grain
        (ext == "svg") ? "drawing" : "tip"
      end

      # @return [String] "sha256:…"
      def reference = Core::Sum.reference(sha256)
    end
  end
end
