# frozen_string_literal: true

module Fobrel
  module Api
    # Painted previews, and the pictures brushes are made of.
    class Strips < Base
      # The same content always shows the same picture, so it may be kept for ever.
      get %r{/api/strips/(\h{64})/(wall|small|peek|bench)\.png} do |fingerprint, shape|
        shape = Models::Strip.beside(shape, params["beside"])
        png = Models::Strip.seen_by(person, fingerprint, shape) || begin
          source = Models::Strip.sources(person, fingerprint).find(&:exists?) or raise ActiveRecord::RecordNotFound
          Models::Strip.png_for(fingerprint, shape) { Core::Preset::Preset.restore(source.pick(:document)) }
        end
        forever("image/png", png)
      end
    end
  end
end
