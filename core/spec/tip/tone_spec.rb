# frozen_string_literal: true

module Fobrel::Core
  RSpec.describe "tone, light and rim of a mark" do
    reference = JSON.parse(File.read(File.join(__dir__, "reference.json")))

    # skimage.exposure.rescale_intensity of scikit-image 0.19.3 on inverted tones, by reference.py.
    reference["levels"].each do |kept|
      it "stretches tones between #{kept["black"]} and #{kept["white"]} as scikit-image does" do
        luma = Numo::SFloat.cast([kept["tones"]]) / 255
        cover = Tip::Cover.from_luma(luma, white: kept["white"], black: kept["black"]).values.flatten.to_a
        kept["cover"].zip(cover).each { |wanted, given| expect(given).to be_within(1e-4).of(wanted) }
      end
    end

    it "stretches them as libvips' linear does, and bends them by gamma" do
      tones = Vips::Image.identity
      wanted = tones.linear(-1.0 / (200 - 30), 200.0 / (200 - 30)).to_a.flatten.map { _1.clamp(0, 1) }
      luma = Numo::SFloat.cast([(0..255).to_a]) / 255
      cover = Tip::Cover.from_luma(luma, white: 200, black: 30).values.flatten.to_a
      wanted.zip(cover).each { |one, other| expect(other).to be_within(1e-4).of(one) }
      bent = Tip::Cover.from_luma(luma, white: 200, black: 30, gamma: 2.0).values.flatten.to_a
      wanted.zip(bent).each { |one, other| expect(other).to be_within(1e-4).of(one**2) }
    end

    # Flat-field truth: a known mark times a known fall of light, with a scanner's noise.
    def scan(fall, seed: 2)
      chance = Random.new(seed)
      Numo::SFloat.cast(
        Array.new(300) do |y|
          Array.new(400) do |x|
            mark = Math.hypot(x - 130, y - 150) < 50 || (x.between?(250, 330) && y.between?(60, 240))
            tone = (mark ? 0.2 : 1.0) * 0.93 * fall.call(x / 400.0, y / 300.0)
            tone + (chance.rand + chance.rand - 1) * 0.008
          end
        end
      )
    end

    {
      "from left to right" => ->(x, _) { 1 - 0.4 * x },
      "towards the corners" => ->(x, y) { 1 - 0.6 * ((x - 0.5)**2 + (y - 0.5)**2) },
      "under a soft shadow" => ->(x, y) { 1 - 0.25 * Math.exp(-((x - 0.8)**2 + (y - 0.3)**2) / 0.18) }
    }.each do |how, fall|
      it "evens out light that falls off #{how}: paper below 1 % cover, the mark within 2 %" do
        luma = scan(fall)
        evened = Tip::Light.of(luma).even(luma)
        cover = 1 - evened
        paper = [cover[0..40, 0..60], cover[260..299, 350..399], cover[0..40, 350..399], cover[120..180, 190..240]]
        expect(paper.map { _1.mean }.max).to be < 0.01
        expect(cover[120..180, 100..160].mean).to be_within(0.02).of(0.8)
        expect(cover[100..200, 260..320].mean).to be_within(0.02).of(0.8)
      end
    end

    it "evens a part of a page, at another size, as it does the page" do
      luma = scan(->(x, _) { 1 - 0.4 * x })
      light = Tip::Light.of(Tip::Scaling.scale(luma, 200, 150))
      whole = light.even(luma)[100...200, 100...300]
      expect((light.even(luma[100...200, 100...300].dup, [0.25, 1 / 3.0, 0.5, 1 / 3.0]) - whole).abs.max).to be < 0.004
    end

    it "feathers: cover falls towards the rim, and is untouched further in" do
      disc = Numo::SFloat.cast(
        Array.new(101) { |y|
          Array.new(101) { |x|
            (Math.hypot(x - 50, y - 50) < 48) ? 1.0 : 0.0
          }
        }
      )
      faded = Tip::Shaping.feathered([disc], 0.4).first[50, 50..100].to_a
      expect(faded.each_cons(2).all? { |inner, outer| outer <= inner + 1e-6 }).to be(true)
      expect(faded.first(27)).to all(be > 0.999)
      expect(faded[46]).to be < 0.1
      expect(Tip::Shaping.feathered([disc], 0).first).to eq(disc)
    end

    it "feathers a photographed texture that fills its frame towards a round rim" do
      faded = Tip::Shaping.feathered([Numo::SFloat.zeros(80, 120) + 0.6], 0.5).first
      expect([faded[0, 0], faded[79, 119], faded[0, 60]].max).to be < 0.02
      expect(faded[40, 60]).to be_within(1e-4).of(0.6)
    end

    it "measures distances as trying every pixel does" do
      chance = Random.new(3)
      inside = Numo::Bit.cast(Array.new(17) { Array.new(23) { (chance.rand < 0.8) ? 1 : 0 } })
      outside = (-1..17).to_a.product((-1..23).to_a).select { |y, x|
        !y.between?(0, 16) || !x.between?(0, 22) || inside[y, x] == 0
      }
      wanted = Array.new(17) { |y| Array.new(23) { |x| outside.map { |v, u| Math.hypot(y - v, x - u) }.min } }
      expect((Tip::Shaping.distances(inside) - Numo::SFloat.cast(wanted)).abs.max).to be < 1e-4
    end

    it "takes specks away, with what is faint around them, and leaves what is larger" do
      plane = Numo::SFloat.zeros(40, 40)
      plane[5..6, 5..6] = 1
      plane[4, 5] = 0.03
      plane[20..29, 20..29] = 0.7
      expect(Tip::Shaping.specks(plane, 10).sum).to be_within(1e-3).of(70)
      expect(Tip::Shaping.specks(plane, 4)[5, 5]).to eq(1)
    end

    it "centres by weight, pads, squares and keeps proportions when told" do
      plane = Numo::SFloat.zeros(20, 60)
      plane[5..14, 10..19] = 1
      plane[9..10, 20..49] = 0.2
      framed = Tip::Shaping.framed([plane], by: "weight").first
      x = (Numo::SFloat.new(framed.shape[1]).seq + 0.5).dot(framed.sum(0)) / framed.sum
      expect(x).to be_within(1).of(framed.shape[1] / 2.0)
      expect(Tip::Shaping.framed([plane], square: false).first.shape).to eq([10, 40])
      expect(Tip::Shaping.framed([plane], padding: 0.1).first.shape).to eq([48, 48])
    end

    it "turns counter-clockwise, a quarter exactly, and mirrors" do
      plane = Numo::SFloat.cast([[1, 0, 0], [0.5, 0, 0]])
      expect(Tip::Shaping.turned([plane], 90).first).to eq(Numo::SFloat.cast([[0, 0], [0, 0], [1, 0.5]]))
      expect(Tip::Shaping.turned([plane], -90).first).to eq(Numo::SFloat.cast([[0.5, 1], [0, 0], [0, 0]]))
      expect(Tip::Shaping.mirrored([plane], "across").first[0, true].to_a).to eq([0, 0, 1])
      square = Numo::SFloat.zeros(60, 60)
      square[20..39, 20..39] = 1
      expect(Tip::Shaping.turned([square], 30).first.sum).to be_within(4).of(400)
    end

    it "lets the line run through both ends' middle" do
      plane = Numo::SFloat.zeros(40, 100)
      100.times { |x| plane[(8 + 24 * x / 99.0).round, x] = 1 }
      lined = Tip::Shaping.lined_up([plane], 8.5 / 40, 32.5 / 40).first
      middle = (0...100).map { |x| (Numo::SFloat.new(lined.shape[0]).seq * lined[true, x]).sum / lined[true, x].sum }
      expect(middle.minmax.inject(:-).abs).to be < 1.6
    end
  end
end
