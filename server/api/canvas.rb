# frozen_string_literal: true

module Fobrel
  module Api
    # The canvas that a library paints on: what sizes are held against.
    module Canvas
      extend Sinatra::Extension

      put "/api/libraries/:library/canvas" do
        library.update!(canvas: json.slice("width", "height"))
        answer({canvas: library.canvas})
      end
    end
  end
end
