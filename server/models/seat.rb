# frozen_string_literal: true

module Fobrel
  module Models
    # One workplace with its start plan and what was last handed out to it.
    class Seat < Record
      include Ordered

      belongs_to :library
      has_many :items, class_name: "Fobrel::Models::StartItem", dependent: :delete_all
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..60}
      validates :folder, format: /\A[a-z0-9][a-z0-9-]{0,60}\z/, uniqueness: true

      # @return [String] a folder's name that no seat has yet
      def self.free_folder(library, name)
        word = name.downcase.unicode_normalize(:nfkd).gsub(/[^a-z0-9]+/, "-").gsub(/\A-+|-+\z/, "")[0, 40]
        plain = "#{word}-#{library.id}".delete_prefix("-")
        taken = where("folder LIKE ?", "#{plain}%").pluck(:folder)
        [plain].chain((2..).lazy.map { "#{plain}-#{_1}" }).find { !taken.include?(_1) }
      end

      # @return [String] the seat's own folder; `startup` lies in it
      def path = File.join(Fobrel.var, "seats", folder)

      # What would be handed out now.
      #
      # @return [Array<Hash>] id, edition number and fingerprint of each preset, in order
      def planned
        items.order(:position).includes(preset: :current_edition).map do |item|
          edition = item.preset.current_edition
          {"id" => item.preset_id, "edition" => edition.number, "fingerprint" => edition.fingerprint}
        end
      end

      # @return [String] "empty", "never handed out", "behind" or "current"
      def state
        return items.none? ? "empty" : "never handed out" unless handed_out_at
        (planned == handed_out) ? "current" : "behind"
      end
    end
  end
end
