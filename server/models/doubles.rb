# frozen_string_literal: true

module Fobrel
  module Models
    # Brushes of a library that paint the same, or nearly the same.
    class Doubles
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
        Core::Curation::Likeness.candidates(first.filter_map { |one| (hash = hashes[one.fingerprint]) && [one.id, [hash, one.size]] }.to_h)
      end

      private

      def unpainted
        done = Strip.where(shape: "wall", version: Core::Stroke::Strip::VERSION).where.not(thumb: nil).select(:fingerprint)
        @library.presets.shown.where.not(fingerprint: done).includes(:current_edition).order(:id)
      end

      def presets = @presets ||= @library.presets.shown.in_order.select(:id, :name, :fingerprint, :size, :current_edition_id).to_a

      def hashes
        @hashes ||= Strip.where(shape: "wall", version: Core::Stroke::Strip::VERSION, fingerprint: presets.map(&:fingerprint)).pluck(:fingerprint, :hash64).to_h
      end

      def thumbs
        @thumbs ||= Strip.where(shape: "wall", version: Core::Stroke::Strip::VERSION, fingerprint: presets.map(&:fingerprint)).where.not(thumb: nil).pluck(:fingerprint, :thumb)
          .to_h { |print, bytes| [print, Numo::SFloat.cast(Numo::UInt8.from_binary(bytes)) / 255] }
      end

      def identical
        presets.group_by(&:fingerprint).values.select { _1.size > 1 }.map { |same| {kind: "identical", alike: 1.0, ids: same.map(&:id), differences: []} }
      end

      def near
        alike = candidates.select { |one, other| Core::Curation::Likeness.likely?(thumbs[by_id[one].fingerprint], thumbs[by_id[other].fingerprint]) }.to_h { |pair| [pair, alike(pair)] }.select { |_, value| value >= Core::Curation::Likeness::ALIKE }
        Core::Curation::Likeness.groups(alike.keys).map do |ids|
          ordered = presets.map(&:id) & ids
          {kind: "alike", alike: alike.select { |pair, _| (pair - ids).empty? }.values.min.round(4), ids: ordered, differences: differences(ordered.first(MOST))}
        end
      end

      def alike(pair)
        @looks ||= Core::Recent.new(4000)
        looks = pair.map { |id| @looks.fetch(id) { Core::Curation::Likeness.look(Strip.png_for(by_id[id].fingerprint, "wall") { by_id[id].current_edition.value }) } }
        Core::Curation::Likeness.alike(*looks)
      end

      def by_id = @by_id ||= presets.index_by(&:id)

      def differences(ids)
        values = Preset.where(id: ids).includes(:current_edition).index_by(&:id).values_at(*ids).map { _1.current_edition.value }
        Core::Curation::Differences.of(values).map { |title, list| {title:, values: list} }
      end
    end
  end
end
