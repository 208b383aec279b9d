# frozen_string_literal: true

module Fobrel
  module Api
    # What the Bench paints on request: strips, the pad, comparisons, curves.
    module Bench
      extend Sinatra::Extension

      helpers Trying

      # Points of a curve that the page draws, from its left to its right.
      CURVE_POINTS = 49

      # A strip of settings that are nowhere kept yet: what a slider shows while it moves.
      post "/api/libraries/:library/strip" do
        value = preset_from(json["document"], library)
        shape = params.fetch("shape", "list")
        options = {assets: Models::Asset.at_hand(value), shape:, beside: json.fetch("beside", 0), **way(json["try"])}
        answer_picture(
          at_once(Core::Stroke::Strip, :png, value, **options),
          "X-Greatest-Size" => Core::Stroke::Strip.greatest(value).round(2).to_s,
          "X-Full-Size" => Core::Stroke::Strip.full_size(shape).round(2).to_s
        )
      end

      # The pad after all its strokes, painted with the settings as they stand now.
      post "/api/libraries/:library/pad" do
        value = preset_from(json["document"], library)
        page = json.values_at("width", "height")
        options = {page:, ground: json["ground"], assets: Models::Asset.at_hand(value)}
        answer_picture(at_once(Core::Stroke::Pad, :png, value, movements(json["strokes"], page), **options))
      end

      # How far apart two presets paint, in numbers, in words and as a picture.
      post "/api/libraries/:library/comparison" do
        one, other = json.values_at("one", "other").map { |document| preset_from(document, library) }
        picture = json.fetch("picture", false)
        options = {picture:, assets: Models::Asset.at_hand(one, other), **way(json["try"])}
        options[:shape] = "bench" if picture
        found, png = at_once(Core::Stroke::Comparison, :between, one, other, **options)
        changes = Core::Preset::Changes.between(one, other).map { |change| {path: change.path, words: change.words} }
        answer({**found, changes:, picture: png && inline(png)})
      end

      # Curves as the core computes them, for the page to draw.
      post "/api/curves" do
        answer({curves: json["curves"].map { |points| drawn(Core::Stroke::Adjustments["curve" => points]) }})
      end

      helpers do
        # What follows the pen goes before all else.
        def at_once(...)
          Core::Apart.turn.rank = :now
          Core::Apart.call(...)
        end

        # A stroke of the pad was drawn there, or is a sample stroke laid over the whole of it.
        def movements(list, page)
          adjustments = Models::Adjustments.of(person) if list.any? { |one| one["adjustments"] }
          list.map do |one|
            samples = one["sample"] ? sample(one["sample"]).on(page) : samples(one["samples"])
            Core::Stroke::Pad::Movement.new(
              samples: by_stand_in(samples, one["stand_in"]),
              adjustments: (adjustments if one["adjustments"]),
              colour: colour(one["colour"]) || Core::Stroke::Painter::INK
            )
          end
        end

        def by_stand_in(samples, name) = name ? Core::Stroke::StandIn.fetch(name).movement(samples) : samples

        # @return [Array<Float>] an artist’s pressure curve, from left to right
        def drawn(adjustments) = adjustments.curve.sampled(CURVE_POINTS)

        def answer_picture(png, headers = {})
          headers({"Content-Type" => "image/png", "Cache-Control" => "no-store"}.merge(headers))
          halt 200, png
        end
      end
    end
  end
end
