# frozen_string_literal: true

module Fobrel
  module Models
    # Brushes of a library that paint the same, or nearly the same.
    class Doubles
      # Brushes whose sizes differ more than this are not taken for doubles, however alike their
      # strips: a large brush's strip is brought down to fit.
      SIZES = 1.25
      # Groups larger than this are compared with their first only.
      MOST = 6

      def initialize(library)
        @library = library
      end

      # Paints strips that were never painted, for a while.
      #
      # @param seconds [Numeric]
      # @return [Integer] how many are left
      def prepare(seconds:)
        till = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
        open = unpainted.to_a
        open.each_with_index do |preset, index|
          return open.size - index if Process.clock_gettime(Process::CLOCK_MONOTONIC) > till
          Strip.png_for(preset.fingerprint, "wall") { preset.current_edition.value }
        rescue Core::Problem
          next # what cannot be painted looks like nothing else
        end
        0
      end

      # @return [Array<Hash>] kind ("identical" or "alike"), alike (the least SSIM of the group's
      #   pairs), ids, and the differences of the first MOST
      def groups = identical + near

      # @return [Array<Array(Integer, Integer)>] pairs of fingerprint-different presets whose
      #   hashes are close
      def candidates
        first = presets.uniq(&:fingerprint)
        found = Core::Curation::Likeness.candidates(first.to_h { [_1.id, hashes[_1.fingerprint]] }.compact)
        size = first.to_h { [_1.id, _1.size] }
        found.select { |one, other| [size[one], size[other]].then { |pair| pair.max <= pair.min * SIZES } }
      end

      private

      def unpainted
        done = Strip.where(shape: "wall", version: Core::Stroke::Strip::VERSION).where.not(hash64: nil).select(:fingerprint)
        @library.presets.shown.where.not(fingerprint: done).includes(:current_edition).order(:id)
      end

      def presets = @presets ||= @library.presets.shown.in_order.select(:id, :name, :fingerprint, :size, :current_edition_id).to_a

      def hashes
        @hashes ||= Strip.where(shape: "wall", version: Core::Stroke::Strip::VERSION, fingerprint: presets.map(&:fingerprint)).pluck(:fingerprint, :hash64).to_h
      end

      def identical
        presets.group_by(&:fingerprint).values.select { _1.size > 1 }.map { |same| {kind: "identical", alike: 1.0, ids: same.map(&:id), differences: []} }
      end

      def near
        alike = candidates.to_h { |pair| [pair, alike(pair)] }.select { |_, value| value >= Core::Curation::Likeness::ALIKE }
        Core::Curation::Likeness.groups(alike.keys).map do |ids|
          ordered = presets.map(&:id) & ids
          {kind: "alike", alike: alike.select { |pair, _| (pair - ids).empty? }.values.min.round(4), ids: ordered, differences: differences(ordered.first(MOST))}
        end
      end

      def alike(pair)
        pngs = pair.map { |id| (@pngs ||= {})[id] ||= Strip.png_for(by_id[id].fingerprint, "wall") { by_id[id].current_edition.value } }
        Core::Curation::Likeness.alike(*pngs)
      end

      def by_id = @by_id ||= presets.index_by(&:id)

      def differences(ids)
        values = Preset.where(id: ids).includes(:current_edition).index_by(&:id).values_at(*ids).map { _1.current_edition.value }
        Core::Curation::Differences.of(values).map { |title, list| {title:, values: list} }
      end
    end
  end
end
