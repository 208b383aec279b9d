# frozen_string_literal: true

module Fobrel
  module Api
    # The tip maker: a picture comes in, its tip and a painted strip go out; nothing is kept until it is saved under a
    # name.
    module Tips
      extend Sinatra::Extension

      # The picture as it came, and its tip, are shown this large, px: not every browser shows every kind.
      SHOWN = 440

      post "/api/libraries/:library/tips" do
        made = tip_made
        preset = Actions::MakeBrush.preset(made, name: "Trial", **mark_asked)
        strip = Core::Apart.call(Core::Stroke::Strip, :png, preset, assets: {made.asset => made.png}, shape: "peek")
        answer(
          {
            **made.figures,
            white: made.white,
            solid_share: made.solid_share,
            tip: inline(made.small_tip),
            strip: inline(strip),
            pictures: made.pictures,
            picture: inline(made.small_picture)
          }
        )
      end

      post "/api/libraries/:library/presets" do
        name = params.fetch("name", "")
        preset = Actions::MakeBrush.call(library: library, person:, made: tip_made, name:, **mark_asked)
        answer({id: preset.id, name: preset.name}, 201)
      end

      helpers do
        # A large file lies on the disk already, and is read where it is unpacked.
        def picture_sent
          file = request.body
          return read_body(Core::Tip::Picture::MAX_BYTES) unless file.respond_to?(:fileno) && file.fileno
          refuse(413, too_large(Core::Tip::Picture::MAX_BYTES)) if file.size > Core::Tip::Picture::MAX_BYTES
          Core::Apart::Lent.of(file)
        end

        def tip_made
          Core::Tip::Outside.trial(
            picture_sent,
            SHOWN,
            name: picture_name,
            invert: params.fetch("invert", false),
            crop: params.fetch("crop", true),
            crisp: params.fetch("crisp", false),
            white: params["white"]
          )
        end

        def mark_asked = {size: params.fetch("size", 40), spacing: params.fetch("spacing", 0.25)}
      end
    end
  end
end
