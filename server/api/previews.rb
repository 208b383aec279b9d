# frozen_string_literal: true

module Fobrel
  module Api
    # Pictures of the glossary's words; and preview pictures: what stands for a brush beside its strip. One lies on the
    # shelf of parts of whoever made it, and a brush has it by its sum, in its words about itself.
    module Previews
      extend Sinatra::Extension

      get "/api/glossary/:word.png" do |word|
        png = GLOSSARY.fetch(word) { Core::Glossary.png(word) }
        headers "Cache-Control" => "private, max-age=86400", "Content-Type" => "image/png"
        halt 200, png
      rescue KeyError
        refuse(404, "There is no picture of this word.")
      end

      # Few and small: each is painted once.
      GLOSSARY = Core::LruCache.new(4_000_000, &:bytesize)
      private_constant :GLOSSARY

      get "/api/symbols" do
        answer({symbols: Core::Tip::Preview::SYMBOLS.map { |name, title| {name:, title:} }})
      end

      get "/api/symbols/:name.png" do |name|
        refuse(404, "There is no such symbol.") unless Core::Tip::Preview::SYMBOLS.key?(name)
        answer_forever(Core::Tip::Preview.symbol(name, "##{params.fetch("colour", "22252b")}"))
      end

      # A square of a picture; the picture is the body.
      post "/api/libraries/:library/previews" do
        found = library
        box = params.values_at("left", "top", "side")
        refuse(422, "A square has a left, a top and a side.") if box.any? && !box.all?
        png = Core::Tip::Preview.cropped(
          read_body(Core::Tip::Picture::MAX_BYTES), box: (box if box.all?), name: picture_name
        )
        answer({sum: Actions::KeepPreview.call(library: found, person:, png:, name: picture_name).sha256}, 201)
      end

      post "/api/libraries/:library/previews/symbol" do
        found = library
        name = Core::Tip::Preview::SYMBOLS.fetch(json["symbol"])
        png = Core::Tip::Preview.symbol(json["symbol"], json["colour"])
        answer({sum: Actions::KeepPreview.call(library: found, person:, png:, name:).sha256}, 201)
      end
    end
  end
end
