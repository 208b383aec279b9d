# frozen_string_literal: true

module Fobrel::Core
  RSpec.describe "grains, lettering, shapes and pieces of work" do
    def noise(width = 220, height = 180, seed: 4)
      chance = Random.new(seed)
      plane = Numo::SFloat.cast(Array.new(height) { Array.new(width) { chance.rand } })
      small = Tip::Scaling.scale(plane, width / 4, height / 4)
      Tip::Scaling.scale(small, width, height)
    end

    # How far two histograms are apart, in tones of 255 (earth mover's distance; Rubner, Tomasi, Guibas 2000).
    def moved(one, other)
      shares = [one, other].map { |plane|
        Numo::DFloat.cast(Numo::Int32.cast((plane.flatten * 255).round).bincount(minlength: 256)) / plane.size
      }
      (shares[0].cumsum - shares[1].cumsum).abs.sum
    end

    Tip::Seamless::WAYS.each do |way|
      it "makes a surface seamless by #{way}: no seam stands out, the tones stay" do
        surface = noise
        made = Tip::Seamless.of(surface, way:, even: false)
        expect(Tip::Seamless.seams(made)).to be <= 1.1
        # Nor does any line inside: none differs from its neighbour more than lines of the picture itself do.
        steps = ->(plane) { (plane[true, 1..] - plane[true, 0...-1]).abs.mean(0).then { _1.max / _1.mean } }
        expect(steps[made]).to be <= steps[surface] * 1.25
        expect(moved(made, surface)).to be <= 2
      end
    end

    it "takes a large fall of light out of a surface, turns it round, gives it contrast" do
      slope = (Numo::SFloat.new(220).seq / 220 - 0.5) * 0.5
      made = Tip::Seamless.of((noise * 0.3 + 0.35 + slope).clip(0, 1))
      halves = [made[true, 0...110].mean, made[true, 110..].mean]
      expect((halves[0] - halves[1]).abs).to be < 0.04
      expect(Tip::Seamless.of(noise, invert: true).mean).to be_within(1e-3).of(1 - Tip::Seamless.of(noise).mean)
      expect(Tip::Seamless.of(noise, contrast: 2).stddev).to be > Tip::Seamless.of(noise).stddev * 1.3
    end

    it "writes words in each font and weight, apart, and bent" do
      widths = Tip::Lettering::FONTS.flat_map { |font|
        font.weights.map { |weight|
          Tip::Lettering["text" => "© Skerrow", "font" => font.name, "weight" => weight].cover.shape[1]
        }
      }
      expect(widths.uniq.size).to eq(6)
      plain = Tip::Lettering["text" => "Harbour"].cover
      wide = Tip::Lettering["text" => "Harbour", "spacing" => 0.3].cover
      bent = Tip::Lettering["text" => "Harbour", "curve" => 0.7].cover
      expect(wide.shape[1]).to be > plain.shape[1] * 1.2
      expect(bent.shape[0]).to be > plain.shape[0] * 1.5
      expect(bent.sum).to be_within(plain.sum * 0.12).of(plain.sum)
      expect(plain.max).to eq(1)
    end

    it "says in words what cannot be written" do
      expect { Tip::Lettering["text" => " "] }.to raise_error(Tip::Lettering::Unwritable, /nothing to write/)
      expect { Tip::Lettering["text" => "x", "font" => "Nosuch"] }.to raise_error(Tip::Lettering::Unwritable, /Caveat/)
      expect { Tip::Lettering["text" => "x" * 121] }.to raise_error(Tip::Lettering::Unwritable, /longer than 120/)
      expect(Tip::Lettering["text" => "<b>&"].cover.max).to eq(1)
    end

    # Areas of the figures by elementary geometry, radius 500 of 1000 px.
    it "draws shapes with the areas that geometry gives them" do
      area = ->(*shapes) { Tip::Figure[shapes].cover.sum }
      hexagon = 3 * Math.sqrt(3) / 2 * 500**2
      expect(area[{"shape" => "polygon"}]).to be_within(hexagon * 0.002).of(hexagon)
      star = 5 * 500 * 500 * 0.45 * Math.sin(Math::PI / 5)
      expect(area[{"shape" => "star"}]).to be_within(star * 0.002).of(star)
      ring = Math::PI * 500**2 * (1 - 0.7**2)
      expect(area[{"shape" => "ring"}]).to be_within(ring * 0.002).of(ring)
      holed = area[{"shape" => "star"}, {"shape" => "polygon", "corners" => 60, "size" => 0.2, "cut" => true}]
      expect(holed).to be_within(300).of(star - 60 / 2 * 100**2 * Math.sin(2 * Math::PI / 60))
      six = area[{"shape" => "polygon", "size" => 0.1, "y" => -0.7, "repeat" => 6}]
      expect(six).to be_within(six * 0.01).of(6 * hexagon * 0.01)
    end

    it "keeps a figure's parameters in its lines, draws every shape, and refuses what is none" do
      Tip::Figure::SHAPES.each_key do |shape|
        svg = Tip::Figure[[{"shape" => shape}]].svg
        expect(JSON.parse(CGI.unescapeHTML(svg[%r{<desc>(.*)</desc>}, 1])).first["shape"]).to eq(shape)
        expect(Tip::Vector.cleaned(svg)).to include("<path").or include("<circle").or include("<rect")
        expect(Tip::Figure[[{"shape" => shape}]].cover.max).to eq(1)
      end
      expect { Tip::Figure[[{"shape" => "script"}]] }.to raise_error(Tip::Figure::Unknown)
      expect { Tip::Figure[[{"shape" => "star", "points" => "7"}]] }.to raise_error(Tip::Figure::Unknown, /number/)
      expect(Tip::Figure[[{"shape" => "star", "points" => 9999}]].shapes.first["points"]).to eq(40)
    end

    it "makes tapers widest where asked, with one side straight" do
      widths = ->(**more) {
        cover = Tip::Figure[[{"shape" => "taper", **more.transform_keys(&:to_s)}]].cover
        [cover.sum(0), cover[500..999, true].sum]
      }
      middle, below = widths[]
      expect(middle.max_index).to be_within(25).of(500)
      expect(widths[widest: 0.8].first.max_index).to be_within(25).of(800)
      expect([below > 10_000, widths[straight: 1.0].last < 600]).to eq([true, true])
    end

    describe Tip::Work do
      def page_of(image) = Tip::Page.read(image.pngsave_buffer)

      let(:file) do
        image = Vips::Image.black(300, 200).invert.copy(interpretation: :b_w)
        image.draw_rect([0], 20, 30, 60, 90, fill: true).draw_rect([60], 180, 40, 90, 60, fill: true).pngsave_buffer
      end
      let(:page) { Tip::Page.read(file) }

      it "makes the whole page where no mark is chosen, each mark where some are, in their order" do
        expect(described_class.new({}, [page]).make(0).mark.width).to eq(250)
        found = described_class.new({}, [page]).marks(0)
        frames = found.reverse.map { {"page" => 0, "area" => Tip::Area.of(_1).words} }
        work = described_class.new({"frames" => frames}, [page])
        expect([work.make(0).mark.width, work.make(1, file).mark.width]).to eq([90, 90])
        expect(work.make(0).cover.values.sum).to be_within(60).of(90 * 60 * (1 - 60 / 255.0))
        expect(work.tip(%w[a b])).to eq("kind" => "picture", "frames" => %w[a b], "turn" => "in order")
        rows = described_class.new(
          {"frames" => frames, "reel" => {"turn" => "tilt", "second" => "pressure", "columns" => 2}}, [page]
        )
        expect(rows.tip(%w[a b c d])).to include("turn" => %w[tilt pressure], "columns" => 2)
      end

      it "keeps layers of red, green and blue red, green and blue" do
        layers = [[255, 0, 0], [0, 255, 0], [0, 0, 255]].map { |colour|
          square = Vips::Image.black(20, 20).new_from_image(colour + [255]).cast(:uchar).copy(interpretation: :srgb)
          page_of(square.embed(10, 10, 40, 40, extend: :background, background: [0, 0, 0, 0]))
        }
        work = described_class.new(described_class.begin(layers), layers)
        colours = (0..2).map { |i| work.make(i).mark.planes.drop(1).map { |plane| plane[10, 10].round } }
        expect(colours).to eq([[1, 0, 0], [0, 1, 0], [0, 0, 1]])
        expect(work.tip(%w[a b c])).to include("colours" => "own")
      end

      it "makes variants step by step" do
        steps = {"turn" => 30, "size" => 0.1, "lighter" => 0.2, "mirror" => true}
        made = described_class.variants({"page" => 0, "area" => {}}, 3, steps)
        expect(
          made.map {
            _1.values_at("turn", "lighter", "mirror")
          }
        ).to eq([[0, 0, nil], [30, 0.2, "across"], [60, 0.4, nil]])
        expect(made.map { _1["size"].round(3) }).to eq([1.0, 0.9, 0.81])
      end

      it "turns hues as the SVG filter does" do
        red = Tip::Paint.new([1, 1, 0, 0].map { Numo::SFloat.zeros(1, 1) + _1 })
        svg = <<~SVG
          <svg xmlns="http://www.w3.org/2000/svg" width="4" height="4">
            <filter id="h" color-interpolation-filters="sRGB"><feColorMatrix type="hueRotate" values="120"/></filter>
            <rect width="4" height="4" fill="#f00" filter="url(#h)"/>
          </svg>
        SVG
        wanted = Vips::Image.svgload_buffer(svg).getpoint(2, 2).first(3).map { _1 / 255 }
        red.hue_turned(120).planes.drop(1).zip(wanted).each { |plane, part|
          expect(plane[0, 0]).to be_within(0.01).of(part)
        }
      end

      it "makes a grain and its twin" do
        photo = page_of(
          Vips::Image.gaussnoise(
            200,
            160,
            mean: 120,
            sigma: 30
          ).gaussblur(2).cast(:uchar).copy(interpretation: :b_w)
        )
        work = described_class.new({}, [photo])
        expect(work.grain.shape).to eq([160, 200])
        expect((work.grain + work.grain(twin: true) - 1).abs.max).to be < 1e-5
      end
    end

    # Facts 12, 13, 19 (common practice, no source): art for a ribbon is black and takes the stroke's colour; spacing
    # makes a tube or a dotted line; a texture brush is large, widely spaced, with flow near 70 %.
    it "guesses what a mark becomes, and begins it so" do
      guess = Preset::FromTip.method(:guess)
      expect(guess[width: 1200, height: 200].first).to eq("ribbon")
      expect(guess[width: 400, height: 400, frames: 5].first).to eq("garland")
      expect(guess[width: 400, height: 400, even: 0.8, core: 0.6].first).to eq("texture")
      expect(guess[width: 400, height: 300].first).to eq("stamp")
      tip = {"kind" => "picture", "frames" => ["sha256:#{"0" * 64}"]}
      texture = Preset::FromTip.build("Wet stone", tip, kind: "texture")
      expect(
        [
          texture["tip", "size", "base"] > 150,
          texture["stroke", "spacing"] > 0.2,
          texture["paint", "flow"]
        ]
      ).to eq([true, true, 0.7])
      ribbon = Preset::FromTip.build("R", tip, kind: "ribbon", first: 0.2, colour: "#ffffff", opacity: 0.3)
      expect(
        [
          ribbon["tip", "ends", "first"],
          ribbon["paint", "opacity"],
          ribbon["method"]
        ]
      ).to eq([0.2, 0.3, "ribbon"])
      stamp, ink = %w[stamp ink].map { Preset::FromTip.build("S", tip, kind: _1)["stroke", "spacing"] }
      expect([stamp > 1, ink < 0.15]).to eq([true, true])
    end
  end
end
