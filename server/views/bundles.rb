# frozen_string_literal: true

module Fobrel
  module Views
    # Bundles, and what of them was released.
    module Bundles
      class << self
        # @param bundle [Models::Bundle]
        # @return [Hash] as openapi.yaml describes Bundle
        def bundle(bundle)
          {
            id: bundle.id,
            **bundle.words.symbolize_keys,
            cover: bundle.cover_id,
            picture: bundle.picture && "/api/bundles/#{bundle.id}/picture-#{bundle.picture}.png",
            preset_ids: bundle.preset_ids_in_order,
            sections: bundle.section_by_preset.transform_keys(&:to_s),
            releases: bundle.releases.listed.includes(:person, :libraries).reverse.map { |one| release(one) }
          }
        end

        # @param release [Models::Release]
        # @return [Hash] as openapi.yaml describes Release
        def release(release)
          {
            id: release.id,
            number: release.number,
            notes: release.notes,
            count: release.items.size,
            by: release.person.name,
            at: release.created_at.iso8601,
            sha256: release.sha256,
            held_by: release.libraries.map(&:name).sort,
            withdrawn: release.withdrawn_at && {at: release.withdrawn_at.iso8601, reason: release.withdrawn_reason}
          }
        end

        # What a release would meet, and its number.
        #
        # @param action [Actions::ReleaseBundle]
        # @return [Hash] as openapi.yaml describes Preflight
        def preflight(action, last)
          changes = action.since_last
          {
            findings: action.findings.map(&:to_h),
            level: changes.level,
            number: changes.next(last),
            last:,
            notes: changes.notes,
            differences: changes.differences
          }
        end

        # Two releases, brush by brush, with what each paints.
        #
        # @param before [Models::Release]
        # @param after [Models::Release]
        # @return [Hash] as openapi.yaml describes ReleaseComparison
        def comparison(before, after)
          was, is = [before, after].map { |release| release.items.index_by { |item| item["id"] } }
          greatest = Models::Version.greatest((before.items + after.items).map { |item| item["fingerprint"] }.uniq)
          rows = (was.keys | is.keys).filter_map do |id|
            next if was[id]&.slice("name", "fingerprint") == is[id]&.slice("name", "fingerprint")
            {
              name: (is[id] || was[id])["name"],
              before: painted(was[id], greatest),
              after: painted(is[id], greatest)
            }
          end
          {rows:, notes: Core::Curation::ReleaseNumber.new(before.brushes, after.brushes).notes}
        end

        private

        def painted(item, greatest)
          item&.slice("name", "fingerprint", "version")&.merge("greatest" => greatest[item["fingerprint"]])
        end
      end
    end
  end
end
