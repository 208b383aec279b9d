# frozen_string_literal: true

module Fobrel
  module Api
    # What brushes of a library are made of: tips, grains and drawings, to look at, to choose from, to name and
    # exchange.
    module Parts
      extend Sinatra::Extension

      get "/api/libraries/:library/parts" do
        found = library
        shelf = found.parts.seen_by(person).shown
        answer({tips: Finding::Parts.tips(found, shelf), grains: Finding::Parts.grains(found, shelf)})
      end

      # All that there are, each with what is known of it.
      get "/api/libraries/:library/shelf" do
        answer({parts: Finding::Shelf.new(library, person, hidden: params.fetch("hidden", false)).rows})
      end

      # A picture that a brush here needs, or that lies on a shelf, as it lies on white paper. It never changes.
      get "/api/libraries/:library/parts/:sum.png" do |_, sum|
        picture = seen_picture(library, sum)
        answer_forever(Core::Apart.call(Core::Tip::Thumb, :png, picture, params.fetch("side", 128)))
      end

      put "/api/libraries/:library/parts/:sum" do |_, sum|
        answer_entry(Actions::ChangePart.call(library:, person:, sum:, wish: json))
      end

      post "/api/libraries/:library/parts/exchange" do
        found = library
        json.values_at("from", "to").each { |sum| seen_picture(found, sum) }
        ids = json["preset_ids"]
        answer_entry(Actions::ExchangePart.call(library: found, person:, from: json["from"], to: json["to"], ids:))
      end

      post "/api/libraries/:library/parts/kit" do
        found = library
        files = Finding::Shelf.new(found, person).rows.select { |row| json["sums"].include?(row[:sum]) }
        refuse(422, "None of these parts is here any more. Nothing was written.") if files.empty?
        named = files.map { |row| [row[:name], row[:colours], seen_picture(found, row[:sum])] }
        zip = Core::Apart.call(Core::Package::PartsKit, :zip, named)
        answer_file(zip, name: "parts.zip", type: "application/zip")
      end
    end
  end
end
