# frozen_string_literal: true

module Fobrel
  module Api
    # What brushes of a library are made of: tips and grains, to look at and to choose from.
    class Parts < Base
      SIDES = [64, 128, 400].freeze

      get "/api/libraries/:library/parts" do
        found = library
        answer({tips: Models::Parts.tips(found), grains: Models::Parts.grains(found)})
      end

      # A picture that a brush here needs, as it lies on white paper. It never changes.
      get %r{/api/libraries/(\d+)/parts/(\h{64})\.png} do |id, sum|
        found = library(id:)
        raise ActiveRecord::RecordNotFound if found.pictures_needed([sum]).empty?
        side = SIDES.include?(params["side"].to_i) ? params["side"].to_i : 128
        forever(
          "image/png",
          Core::Apart.call(
            Core::Tip::Thumb,
            :png,
            Models::Asset::Bytes.fetch(sum) {
              raise ActiveRecord::RecordNotFound
            },
            side
          )
        )
      end
    end
  end
end
