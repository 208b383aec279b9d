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
          raise Picture::Unreadable, "#{name} has no list of layers. Nothing was kept. Save it again as OpenRaster." unless image&.name == "image"
          width, height = %w[w h].map { image[_1].to_i }
          unless [width, height].all? { _1.between?(1, Picture::MAX_SIDE) } && width * height <= Picture::MAX_PIXELS
            raise Picture::Unreadable, "#{name} is #{width} × #{height} pixels, which cannot be a tip. Nothing was kept. Save it smaller."
          end
          layers = image.css("layer").reject { _1["visibility"] == "hidden" }.reverse
          raise Picture::Unreadable, "#{name} has #{layers.empty? ? "no visible layer" : "more than #{Picture::MAX_FRAMES} layers"}. Nothing was kept." unless layers.size.between?(1, Picture::MAX_FRAMES)
          layers.map { |layer| laid(layer, files, [width, height], name) }
        end

        def self.laid(layer, files, canvas, name)
          bytes = files[layer["src"].to_s] or raise Picture::Unreadable, "#{name} lacks the layer “#{layer["name"].to_s[0, 60]}”. Nothing was kept. Save it again as OpenRaster."
          Picture.check(bytes, name: "The layer “#{layer["name"].to_s[0, 60]}” of #{name}")
          image = Vips::Image.new_from_buffer(bytes, "").colourspace(:srgb)
          image = image.bandjoin(255) unless image.has_alpha?
          image.cast(:uchar).embed(layer["x"].to_i, layer["y"].to_i, *canvas, extend: :background, background: [0, 0, 0, 0]).pngsave_buffer
        end
        private_class_method :laid
      end
    end
  end
end
