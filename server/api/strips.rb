# frozen_string_literal: true

module Fobrel
  module Api
    # Painted previews, and the pictures brushes are made of.
    class Strips < Base
      # The same content always shows the same picture, so it may be kept for ever.
      get %r{/api/strips/(\h{64})/(wall|peek|bench)\.png} do |fingerprint, shape|
        source = visible(fingerprint).find(&:exists?) or raise ActiveRecord::RecordNotFound
        forever("image/png", Models::Strip.png_for(fingerprint, shape) { Core::Preset::Preset.restore(source.pick(:document)) })
      end

      helpers do
        # Where this person may see such a brush: an edition in their libraries, or their draft.
        def visible(fingerprint)
          mine = person.memberships.select(:library_id)
          [Models::Edition.joins(:preset).where(fingerprint:, presets: {library_id: mine}), Models::Draft.where(fingerprint:, person:)]
        end
      end
    end
  end
end
