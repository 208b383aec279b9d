# frozen_string_literal: true

module Fobrel
  module Api
    # The canvas that a library paints on: what sizes are held against.
    module Canvas
      extend Sinatra::Extension

      put "/api/libraries/:library/canvas" do
        value = json.slice("width", "height")
        said = value.values.compact.empty? ? "none" : "#{value["width"]} × #{value["height"]} px"
        Actions::SetUpLibrary.call(library:, person:, setting: :canvas, value:, said:)
        answer({canvas: library.canvas})
      end
    end
  end
end
