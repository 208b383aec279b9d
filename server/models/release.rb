# frozen_string_literal: true

module Fobrel
  module Models
    # A numbered, frozen state of a bundle, with its package. It can be withdrawn, never changed.
    class Release < Record
      belongs_to :bundle
      belongs_to :person
      has_many :follows, class_name: "Fobrel::Models::Follow"
      has_many :libraries, through: :follows

      # Everything but the package's bytes, which lists do not need.
      LISTED = %i[
        id
        bundle_id
        number
        notes
        items
        words
        sha256
        person_id
        withdrawn_at
        withdrawn_reason
        created_at
      ].freeze
      private_constant :LISTED

      # A release's package whose bytes are fetched when they are asked for.
      Packed = Struct.new(:id, :bytesize) do
        def bytes = RawColumn.get("SELECT package FROM releases WHERE id = $1", id)
      end

      scope :listed, -> { select(*LISTED) }

      # @return [Array<Core::Curation::ReleaseNumber::Brush>]
      def brushes = items.map { Core::Curation::ReleaseNumber::Brush.new(_1["id"], _1["name"], _1["fingerprint"]) }
    end
  end
end
