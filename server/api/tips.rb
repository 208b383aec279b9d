# frozen_string_literal: true

module Fobrel
  module Api
    # The tip maker: a picture comes in, its tip and a painted strip go out; nothing is kept
    # until it is saved under a name.
    class Tips < Base
      # The picture as it came is shown this large, px: not every browser shows every kind.
      SHOWN = 440

      post "/api/libraries/:library/tips" do
        library(:edit)
        made = made()
        preset = Actions::MakeBrush.preset(made, name: "Trial", **shape)
        strip = Core::Apart.call(Core::Stroke::Strip, :png, preset, assets: {made.asset => made.png}, shape: "peek")
        answer(made.figures.merge(white: made.white, solid_share: made.cover.solid_share.round(4),
          tip: inline(made.png), strip: inline(strip), pictures: Core::Tip::Outside.count(sent), picture: inline(Core::Tip::Outside.thumb(sent, SHOWN))))
      end

      post "/api/libraries/:library/presets" do
        preset = Actions::MakeBrush.call(library: library(:edit), person:, made: made, name: params["name"].to_s[0, 200], **shape)
        answer({id: preset.id, name: preset.name}, 201)
      end

      helpers do
        def sent = @sent ||= read_body(Core::Tip::Picture::MAX_BYTES)

        def made
          Core::Tip::Outside.tip(sent, name: params["file"].to_s[0, 120].then { _1.empty? ? "The picture" : _1 },
            invert: signed?("invert"), crop: params["crop"] != "false", crisp: signed?("crisp"),
            white: params["white"].to_s.empty? ? nil : params["white"].to_i.clamp(1, 255))
        end

        def shape
          {size: params.fetch("size", 40).to_f.clamp(1, 400), spacing: params.fetch("spacing", 0.25).to_f.clamp(0.02, 3)}
        end
      end
    end
  end
end
