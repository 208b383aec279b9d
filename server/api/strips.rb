# frozen_string_literal: true

module Fobrel
  module Api
    # Painted previews, and the pictures brushes are made of.
    class Strips < Base
      # The same content always shows the same picture, so it may be kept for ever.
      get %r{/api/strips/(\h{64})/(wall|peek)\.png} do |fingerprint, shape|
        source = visible(fingerprint).find(&:exists?) or raise ActiveRecord::RecordNotFound
        forever("image/png", Models::Strip.png_for(fingerprint, shape) { Core::Preset::Preset.restore(source.pick(:document)) })
      end

      # A strip of settings that are nowhere kept yet: what a slider shows while it moves.
      post "/api/libraries/:library/strip" do
        found = library
        value = document(json)
        unseen = value.needs.map { _1.delete_prefix("sha256:") } - needs_of(found, value)
        raise Core::Preset::MissingNeed.new(value, "sha256:#{unseen.first}") if unseen.any?
        content_type "image/png"
        headers "Cache-Control" => "no-store"
        halt 200, Core::Stroke::Strip.png(value, assets: Models::Asset::Bytes, shape: Core::Stroke::Strip::SHAPES.key?(params["shape"]) ? params["shape"] : "wall")
      end

      helpers do
        # Where this person may see such a brush: an edition in their libraries, or their draft.
        def visible(fingerprint)
          mine = person.memberships.select(:library_id)
          [Models::Edition.joins(:preset).where(fingerprint:, presets: {library_id: mine}), Models::Draft.where(fingerprint:, person:)]
        end

        # A picture is painted with only where one of the library's brushes needs it already.
        def needs_of(library, value)
          sums = value.needs.map { _1.delete_prefix("sha256:") }
          Models::Edition.joins(:preset).joins("JOIN edition_needs ON edition_needs.edition_id = editions.id")
            .where(presets: {library_id: library.id}, edition_needs: {sha256: sums}).distinct.pluck("edition_needs.sha256")
        end
      end
    end
  end
end
