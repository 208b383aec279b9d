# frozen_string_literal: true

module Fobrel
  module Models
    # A preset's place in a bundle.
    class BundleItem < Record
      belongs_to :bundle
      belongs_to :preset
    end
  end
end
