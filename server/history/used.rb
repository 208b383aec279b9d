# frozen_string_literal: true

module Fobrel
  module History
    # What somebody has begun to use since a deed brought it: it does not go with the deed.
    module Used
      class << self
        # @param keys [Array<String>] ids
        # @param own [Changes] of the deed itself
        # @return [Array<String>] those of the keys that are used; likewise below
        def presets(keys, own)
          ids = keys.map(&:to_i)
          places = [Models::Draft, Models::SetItem, Models::StartItem, Models::BundleItem, Models::Tagging]
          used = places.flat_map { |place| place.where(preset_id: ids).distinct.pluck(:preset_id) }
          used += Models::Bundle.where(cover_id: ids).pluck(:cover_id)
          (used + saved_since(ids, own)).uniq.map(&:to_s)
        end

        def categories(keys, _)
          below = Models::Category.where(parent_id: keys).pluck(:parent_id)
          (Models::Preset.where(category_id: keys).distinct.pluck(:category_id) | below).map(&:to_s)
        end

        def statuses(keys, _) = Models::Preset.where(status_id: keys).distinct.pluck(:status_id).map(&:to_s)

        def tags(keys, _) = Models::Tagging.where(tag_id: keys).distinct.pluck(:tag_id).map(&:to_s)

        def sets(keys, _) = Models::SetItem.where(brush_set_id: keys).distinct.pluck(:brush_set_id).map(&:to_s)

        # What was handed over stays.
        def bundles(keys, _)
          followed = Models::Follow.where(bundle_id: keys).distinct.pluck(:bundle_id).map(&:to_s)
          handed = Models::Export.joins("JOIN releases ON releases.id = exports.release_id")
          handed.where("releases.bundle_id IN (?)", keys).distinct.pluck("releases.bundle_id").map(&:to_s) | followed
        end

        private

        # Versions after the one that the deed left.
        def saved_since(ids, own)
          left = own.list.select {
            _1.table == "presets" && _1.kind == :came
          }.to_h { [_1.key.to_i, _1.after["current_version_id"]] }
          last = Models::Version.where(preset_id: ids).group(:preset_id).maximum(:id)
          ids.select { last[_1].to_i > left[_1].to_i }
        end
      end
    end
  end
end
