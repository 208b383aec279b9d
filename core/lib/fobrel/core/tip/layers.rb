# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # A layered OpenRaster drawing: each visible layer laid on the drawing's own canvas, the
      # lowest first. https://www.openraster.org/baseline/layer-stack-spec.html
      module Layers
        # Whether an opened ZIP is one.
        #
        # @param files [Package::Archive]
        def self.drawing?(files) = files.key?("stack.xml") && files["mimetype"].to_s.strip == "image/openraster"

        # @param files [Package::Archive]
        # @return [Array<String>] a PNG of each visible layer
        # @raise [Picture::Unreadable]
        def self.frames(files, name: "The drawing")
          list = files["stack.xml"].to_s[0, 1_000_000]
          image = Nokogiri::XML(list, &:nonet).root unless list.match?(/<!(DOCTYPE|ENTITY)/i)
          unless image&.name == "image"
            raise Picture::Unreadable,
              "#{name} has no list of layers. Nothing was kept. Save it again as OpenRaster."
          end
          width, height = %w[w h].map { image[_1].to_i }
          unless [width, height].all? { _1.between?(1, Picture::MAX_SIDE) } && width * height <= Picture::MAX_PIXELS
            raise Picture::Unreadable,
              "#{name} is #{width} × #{height} pixels, which cannot be a tip. Nothing was kept. Save it smaller."
          end
          layers = image.css("layer").reject { _1["visibility"] == "hidden" }.reverse
          unless layers.size.between?(
            1, Picture::MAX_FRAMES
          )
            raise Picture::Unreadable,
              "#{name} has #{layers.empty? ? "no visible layer" : "more than #{Picture::MAX_FRAMES} layers"}. " \
                "Nothing was kept."
          end
          if width * height * layers.size > Picture::MAX_IN_ALL
            raise Picture::Unreadable,
              "#{name} has #{layers.size} layers of #{width} × #{height} pixels, more than " \
                "#{Picture::MAX_IN_ALL / 1_000_000} million in all. Nothing was kept. Save it smaller, or in parts."
          end
          layers.map do |layer|
            called = layer["name"].to_s[0, 60]
            bytes = files[layer["src"].to_s] or raise Picture::Unreadable,
              "#{name} lacks the layer “#{called}”. Nothing was kept. Save it again as OpenRaster."
            Outside.layer(
              bytes,
              [layer["x"].to_i, layer["y"].to_i],
              [width, height],
              name: "The layer “#{called}” of #{name}"
            )
          end
        end

        # @api private
        def self.laid(bytes, place, canvas, name:)
          Picture.check(bytes, name:)
          image = Vips::Image.new_from_buffer(bytes, "").colourspace(:srgb)
          image = image.bandjoin(255) unless image.has_alpha?
          image.cast(:uchar).embed(*place, *canvas, extend: :background, background: [0, 0, 0, 0]).pngsave_buffer
        end
      end
    end
  end
end
