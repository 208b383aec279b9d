# frozen_string_literal: true

module Fobrel
  module Finding
    # Brushes of a library that paint the same, or nearly the same. Brushes are told apart by
    # their fingerprints here.
    class Duplicates
      # Groups larger than this are compared with their first only.
      MOST = 6
      Alike = Core::Curation::Likeness
      private_constant :Alike

      def initialize(library)
        @library = library
      end

      # Paints strips that were never painted, then looks closely at pairs that never were, for a
      # while.
      #
      # @param seconds [Numeric]
      # @return [Integer] how many are left
      def prepare(seconds:)
        @till = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
        left = work_through(unpainted.to_a) { paint(_1) }
        return left if left.positive?
        pairs = likely
        fresh = pairs - judged(pairs).keys
        # Pairs that share a strip come together, so that it is unpacked once.
        work_through(fresh.sort.each_slice(50).to_a) { look_closely(_1) } * 50
      end

      # @return [Array<Hash>] kind ("identical" or "alike"), alike (the least SSIM of the group's
      #   pairs), ids, and the differences of the first MOST
      def groups = identical + near

      # @param prints [Array<String>] fingerprints of brushes here
      # @return [Boolean] whether all belong to one group
      def alike?(prints) = prints.uniq.size == 1 || close_groups.any? { (prints - _1).empty? }

      # @return [Array<Array(String, String)>] pairs of fingerprints whose hashes are close
      def candidates
        Core::Apart.call(
          Alike,
          :candidates,
          presets.uniq(&:fingerprint).filter_map { |one|
            (strip = strips[one.fingerprint]) && [one.fingerprint, [strip.first, one.size]]
          }.to_h
        ).map(&:sort)
      end

      private

      VERSION = Core::Stroke::Strip::VERSION
      private_constant :VERSION

      # @return [Integer] how many are left when the time is over
      def work_through(list)
        list.each_with_index do |one, index|
          return list.size - index if Process.clock_gettime(Process::CLOCK_MONOTONIC) > @till
          yield one
        end
        0
      end

      def paint(preset)
        Models::KeptStrip.png_for(preset.fingerprint, "list") { preset.current_version.value }
      rescue Core::Problem
        nil # what cannot be painted looks like nothing else
      end

      def unpainted
        done = Models::KeptStrip.where(shape: "list", version: VERSION).where.not(thumb: nil).select(:fingerprint)
        @library.presets.shown.where.not(fingerprint: done).includes(:current_version).order(:id)
      end

      def presets
        @presets ||= @library.presets.shown.in_order.select(:id, :name, :fingerprint, :size, :current_version_id).to_a
      end

      def painted = Models::KeptStrip.where(shape: "list", version: VERSION)

      def strips
        @strips ||= painted.where(fingerprint: presets.map(&:fingerprint)).where.not(thumb: nil).pluck(
          :fingerprint,
          :hash64,
          :thumb
        ).to_h { |print, *rest|
          [print, rest]
        }
      end

      def likely = @likely ||= Core::Apart.call(Alike, :likely, candidates, strips.transform_values(&:last))

      def look_closely(pairs)
        values = Core::Apart.call(
          Alike,
          :alike_pairs,
          pairs,
          painted.where(fingerprint: pairs.flatten.uniq).pluck(:fingerprint, :png).to_h
        )
        Models::StripPair.insert_all(
          pairs.zip(values).map { |(one, other), alike|
            {one:, other:, version: VERSION, alike:}
          }
        )
      end

      # What is known of the pairs.
      def judged(pairs)
        Models::StripPair.where(version: VERSION, one: pairs.map(&:first).uniq).pluck(
          :one,
          :other,
          :alike
        ).to_h { |one, other, value|
          [[one, other], value]
        }.slice(*pairs)
      end

      def identical
        by_print.values.select {
          _1.size > 1
        }.map { |same| {kind: "identical", alike: 1.0, ids: same.map(&:id), differences: []} }
      end

      def close = @close ||= judged(likely).select { |_, value| value >= Alike::ALIKE }

      def close_groups = Alike.groups(close.keys)

      def near
        places = presets.map(&:fingerprint).uniq.each_with_index.to_h
        close_groups.map do |prints|
          inside = prints.to_set
          ids = prints.sort_by { places[_1] }.map { by_print[_1].first.id }
          {
            kind: "alike",
            alike: close.select { |pair, _|
              inside.include?(pair.first)
            }.values.min.round(4),
            ids:,
            differences: differences(ids.first(MOST))
          }
        end
      end

      def by_print = @by_print ||= presets.group_by(&:fingerprint)

      def differences(ids)
        values = Models::Preset.where(id: ids).includes(:current_version).index_by(&:id).values_at(*ids).map {
          _1.current_version.value
        }
        Core::Curation::Differences.of(values).map { |title, list| {title:, values: list} }
      end
    end
  end
end
