# frozen_string_literal: true

module Fobrel
  module Api
    # The Bench: strokes painted on request, comparisons, curves, people's hands and trial strokes.
    class Bench < Base
      helpers Trying

      MOST_SIDE = 1600
      # Points of a curve that the page draws, from its left to its right.
      CURVE_POINTS = 49

      # A strip of settings that are nowhere kept yet: what a slider shows while it moves.
      post "/api/libraries/:library/strip" do
        data = json
        value = document(data, library)
        shape = Core::Stroke::Strip::SHAPES.key?(params["shape"]) ? params["shape"] : "wall"
        beside = data["beside"].is_a?(Numeric) ? data["beside"].clamp(0, 5000) : 0
        picture(
          at_once(
            Core::Stroke::Strip,
            :png,
            value,
            assets: Models::Asset.at_hand(value),
            shape:,
            beside:,
            **way(data["try"])
          ),
          "X-Greatest-Size" => Core::Stroke::Strip.greatest(value).round(2).to_s,
          "X-Full-Size" => Core::Stroke::Strip.full_size(shape).round(2).to_s
        )
      end

      # The trial pad after all its strokes, painted with the settings as they stand now.
      post "/api/libraries/:library/pad" do
        data = json
        value = document(data, library)
        strokes = movements(data["strokes"], page_of_pad(data))
        picture(
          at_once(
            Core::Stroke::Pad,
            :png,
            value,
            strokes,
            page: page_of_pad(data),
            ground: ground(data["ground"]),
            assets: Models::Asset.at_hand(value)
          )
        )
      end

      # How far apart two presets paint, in numbers, in words and as a picture.
      post "/api/libraries/:library/comparison" do
        data = json
        one, other = %w[one other].map { document({"document" => data[_1]}, library) }
        options = way(data["try"])
        options[:shape] = "bench" if data["picture"] == true
        found, png = at_once(
          Core::Stroke::Comparison,
          :between,
          one,
          other,
          picture: data["picture"] == true,
          assets: Models::Asset.at_hand(one, other),
          **options
        )
        answer(
          found.merge(
            changes: Core::Preset::Changes.between(one, other).map {
              {path: _1.path, words: _1.words}
            },
            picture: png && inline(png)
          )
        )
      end

      # Curves as the core computes them, for the page to draw.
      post "/api/curves" do
        curves = json["curves"]
        raise Halt.new(400, "curves must be a list of at most 100.") unless curves.is_a?(Array) && curves.size <= 100
        answer({curves: curves.map { |points| Core::Stroke::Hand["curve" => points].curve.sampled(CURVE_POINTS) }})
      end

      get "/api/trial-strokes" do
        shipped = Core::Stroke::TrialStroke.names.map { Core::Stroke::TrialStroke.fetch(_1) }
        answer(
          {
            trial_strokes: shipped.map {
              {id: nil, name: _1.name, title: _1.title, own: false}
            } + person.trial_strokes.order(:name).map {
                  own_view(_1)
                },
            stand_ins: Core::Stroke::StandIn::ALL.values.map { {name: _1.name, title: _1.title} },
            grounds: Core::Stroke::Ground::NAMES
          }
        )
      end

      post "/api/trial-strokes" do
        data = json
        movement = by_stand_in(samples(data["samples"]), data)
        made = person.trial_strokes.create!(
          name: text(data, "name"),
          width: data["width"],
          height: data["height"],
          samples: movement.rows.map { Core::Stroke::Samples::COLUMNS.zip(_1.map { |number| number.round(3) }).to_h }
        )
        answer(own_view(made), 201)
      end

      delete "/api/trial-strokes/:id" do
        person.trial_strokes.find(number(params["id"])).destroy!
        answer({ok: true})
      end

      get "/api/hand" do
        answer(hand_view(Models::Hand.of(person)))
      end

      put "/api/hand" do
        hand = Core::Stroke::Hand[json]
        Models::Hand.find_or_initialize_by(person:).update!(settings: hand.settings)
        answer(hand_view(hand))
      end

      # The pressure curve that suits these strokes; nothing is kept.
      post "/api/hand/fit" do
        strokes = json["strokes"]
        unless strokes.is_a?(Array) && strokes.size.between?(
          1, 20
        )
          raise Halt.new(
            400,
            "strokes must be a list of at most 20."
          )
        end
        answer({curve: at_once(Core::Stroke::Hand, :fit, strokes.map { samples(_1) })})
      end

      helpers do
        # What follows the hand goes before all else.
        def at_once(...)
          Core::Apart.turn.rank = :now
          Core::Apart.call(...)
        end

        def page_of_pad(data)
          page = [data["width"], data["height"]]
          return page if page.all? { _1.is_a?(Integer) && _1.between?(20, MOST_SIDE) }
          raise Halt.new(400, "A trial pad is 20 to #{MOST_SIDE} px a side.")
        end

        # A stroke of the pad was drawn there, or is a trial stroke laid over the whole of it.
        def movements(list, page)
          raise Halt.new(400, "strokes must be a list.") unless list.is_a?(Array) && list.all?(Hash)
          hand = Models::Hand.of(person) if list.any? { _1["hand"] == true }
          list.map do |one|
            drawn = one["trial"] ? trial(one["trial"]).on(page) : samples(one["samples"])
            Core::Stroke::Pad::Movement.new(
              samples: by_stand_in(drawn, one),
              hand: (hand if one["hand"] == true),
              colour: colour(one["colour"]) || Core::Stroke::Painter::INK
            )
          end
        end

        def by_stand_in(movement, data)
          data["stand_in"] ? Core::Stroke::StandIn.fetch(data["stand_in"]).movement(movement) : movement
        end

        def own_view(stroke) = {id: stroke.id, name: stroke.value.name, title: stroke.name, own: true}

        def hand_view(hand) = hand.settings.merge("plain" => hand.plain?, "drawn" => hand.curve.sampled(CURVE_POINTS))

        def picture(png, headers = {})
          headers({"Content-Type" => "image/png", "Cache-Control" => "no-store"}.merge(headers))
          halt 200, png
        end
      end
    end
  end
end
