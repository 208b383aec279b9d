# frozen_string_literal: true

module Fobrel
  module Models
    # Brushes gathered to be handed over, in order, with words about them; its releases are frozen.
    class Bundle < Record
      include Ordered

      belongs_to :library
      belongs_to :cover, class_name: "Fobrel::Models::Preset", optional: true
      has_many :items, class_name: "Fobrel::Models::BundleItem", dependent: :delete_all
      has_many :releases, -> { order(:id) }
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..100}
      validates :description, length: {maximum: 5000}
      validates :author, :licence, length: {maximum: 200}

      # @param ids [Array<Integer>] in order
      # @param sections [Hash{Integer => String}]
      def put_in_order(ids, sections = section_by_preset)
        super(ids, ids.to_h { |id| [id, {section: sections[id].presence}] })
      end

      # @return [Hash{Integer => String}]
      def section_by_preset = items.where.not(section: nil).pluck(:preset_id, :section).to_h

      # @return [Array<Preset>] in order
      def presets_in_order
        presets = Preset.where(id: items.select(:preset_id)).includes(:current_version).index_by(&:id)
        presets.values_at(*preset_ids_in_order)
      end

      # A cover's side, px.
      COVER = 512

      # @param bytes [String] a picture from outside, kept square as the cover
      # @raise [Core::Tip::Picture::Unreadable]
      def keep_picture(bytes, name: "The picture")
        update!(picture: Asset.keep(Core::Tip::Outside.square(bytes, COVER, name:), "png"), cover_id: nil)
      end

      # @return [Release, nil] the newest that was not withdrawn
      def last_release = releases.reject(&:withdrawn_at).last

      # @return [Hash] what is said about it, as a release freezes it
      def words = slice(:name, :description, :author, :licence)
    end
  end
end
