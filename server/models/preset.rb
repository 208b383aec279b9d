# frozen_string_literal: true

module Fobrel
  module Models
    # A brush in a library: its editions, which of them is current, which is home.
    class Preset < Record
      belongs_to :library
      belongs_to :current_edition, class_name: "Fobrel::Models::Edition", optional: true
      belongs_to :home_edition, class_name: "Fobrel::Models::Edition", optional: true
      belongs_to :locked_by, class_name: "Fobrel::Models::Person", optional: true
      has_many :editions, -> { order(:number) }
      has_many :homes, -> { order(:id) }
      has_many :drafts
      has_many :taggings
      has_many :tags, through: :taggings
      has_many :set_items
      has_many :brush_sets, through: :set_items
      has_many :start_items
      has_many :seats, through: :start_items

      scope :in_order, -> { order(:name, :id) }

      # The edition that each way of going back leads to.
      BACK = {"current" => :current_edition, "home" => :home_edition, "received" => :received_edition}.freeze

      # @return [Edition] the first one: as it was received, or made
      def received_edition = editions.first

      # @param to [String] a key of BACK
      # @return [Edition]
      def edition_to_go_back_to(to) = public_send(BACK.fetch(to))

      # @return [Boolean] whether the current edition paints otherwise than home
      def changed_from_home? = current_edition.fingerprint != home_edition.fingerprint
    end
  end
end
