# frozen_string_literal: true

module Fobrel
  module Api
    # The tip maker: a picture comes in, its tip and a painted strip go out; nothing is kept
    # until it is saved under a name.
    class Tips < Base
      # The picture as it came, and its tip, are shown this large, px: not every browser shows every kind.
      SHOWN = 440

      post "/api/libraries/:library/tips" do
        library
        made = made()
        preset = Actions::MakeBrush.preset(made, name: "Trial", **shape)
        strip = Core::Apart.call(Core::Stroke::Strip, :png, preset, assets: {made.asset => made.png}, shape: "peek")
        answer(
          made.figures.merge(
            white: made.white,
            solid_share: made.solid_share,
            tip: inline(made.small_tip),
            strip: inline(strip),
            pictures: made.pictures,
            picture: inline(made.small_picture)
          )
        )
      end

      post "/api/libraries/:library/presets" do
        preset = Actions::MakeBrush.call(
          library: library,
          person:,
          made: made,
          name: params["name"].to_s[0, 200],
          **shape
        )
        answer({id: preset.id, name: preset.name}, 201)
      end

      helpers do
        # A large file lies on the disk already, and is read where it is unpacked.
        def sent
          file = request.body
          return read_body(Core::Tip::Picture::MAX_BYTES) unless file.respond_to?(:fileno) && file.fileno
          raise Halt.new(413, too_large(Core::Tip::Picture::MAX_BYTES)) if file.size > Core::Tip::Picture::MAX_BYTES
          Core::Apart::Lent.of(file)
        end

        def made
          Core::Tip::Outside.trial(
            sent,
            SHOWN,
            name: params["file"].to_s[0, 120].then {
              _1.empty? ? "The picture" : _1
            },
            invert: signed?("invert"),
            crop: params["crop"] != "false",
            crisp: signed?("crisp"),
            white: params["white"].to_s.empty? ? nil : params["white"].to_i.clamp(1, 255)
          )
        end

        def shape
          {
            size: params.fetch("size", 40).to_f.clamp(1, 400),
            spacing: params.fetch("spacing", 0.25).to_f.clamp(0.02, 3)
          }
        end
      end
    end
  end
end
