# frozen_string_literal: true

module Fobrel
  module Models
    # What a person signs in with at the external gallery.
    class GalleryToken < Record
      belongs_to :person
    end
  end
end
