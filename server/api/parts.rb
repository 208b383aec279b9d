# frozen_string_literal: true

module Fobrel
  module Api
    # What brushes of a library are made of: tips and grains, to look at and to choose from.
    module Parts
      extend Sinatra::Extension

      get "/api/libraries/:library/parts" do
        found = library
        answer({tips: Finding::Parts.tips(found), grains: Finding::Parts.grains(found)})
      end

      # A picture that a brush here needs, as it lies on white paper. It never changes.
      get "/api/libraries/:library/parts/:sum.png" do |_, sum|
        raise ActiveRecord::RecordNotFound if library.pictures_needed([sum]).empty?
        picture = Models::Asset::Bytes.fetch(sum) { raise ActiveRecord::RecordNotFound }
        answer_forever(Core::Apart.call(Core::Tip::Thumb, :png, picture, params.fetch("side", 128)))
      end
    end
  end
end
