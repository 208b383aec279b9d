# frozen_string_literal: true

module Fobrel
  module Api
    # Painted strips of what is kept.
    module Strips
      extend Sinatra::Extension

      # The same content always shows the same picture, so it may be kept for ever.
      get "/api/strips/:fingerprint/:shape.png" do |fingerprint, shape|
        shape = Models::KeptStrip.beside(shape, params["beside"])
        png = Models::KeptStrip.seen_by(person, fingerprint, shape, only: only_library) || begin
          source = Models::KeptStrip.sources(
            person,
            memberships,
            fingerprint
          ).find(&:exists?) or raise ActiveRecord::RecordNotFound
          Models::KeptStrip.png_for(fingerprint, shape) {
            Core::Preset::Preset.restore(source.pick(:document) || raise(ActiveRecord::RecordNotFound))
          }
        end
        answer_forever(png)
      end
    end
  end
end
