# frozen_string_literal: true

# The check values in brackets are those of docs/rules.md.
RSpec.describe Fobrel::Core::Stroke do
  def paint(preset, samples, page: [500, 120], **rest) = S::Painter.new(preset, **rest).paint(samples, page:)

  def dab(**rest)
    plain = {
      x: 60.0,
      y: 60.0,
      size: 40.0,
      angle: 0.0,
      roundness: 1.0,
      opacity: 1.0,
      flow: 1.0,
      frame: 0,
      depth: 0.0,
      hue: 0.0,
      saturation: 0.0,
      lightness: 0.0,
      mix: 0.0
    }
    S::Dabs::Dab.new(*plain.merge(rest).values_at(*S::Dabs::Dab.members))
  end

  def lay(dabs, tip = S::RoundTip.new(hardness: 1.0)) = S::Layer.new(120, 120).lay(dabs, tip)

  describe "the stroke" do
    it "sets 41 dabs along 400 px with 40 px and a spacing of 0.25" do
      painted = paint(round_preset(stroke: {"spacing" => 0.25}), line(50, 60, 450, 60))
      expect(painted.dabs.map(&:x)).to match((0..40).map { be_within(1e-6).of(50 + 10 * _1) })
    end

    it "carries on what is left over from sample to sample" do
      painted = paint(round_preset(stroke: {"spacing" => 0.7}), line(50, 60, 450, 60, count: 23))
      expect(painted.dabs.each_cons(2).map { _2.x - _1.x }).to all(be_within(1e-6).of(28))
    end

    it "never sets dabs closer than half a pixel" do
      expect(paint(round_preset(stroke: {"spacing" => 0}), line(50, 60, 100, 60)).dabs.size).to eq(101)
    end

    it "follows the current diameter" do
      painted = paint(
        round_preset(stroke: {"spacing" => 0.5}, response: [by_pressure("size", 0.2, 1)]),
        line(20, 60, 480, 60) {
          _1
        }
      )
      painted.dabs.each_cons(2) { |a, b| expect(b.x - a.x).to be_within(1e-6).of(a.size * 0.5) }
    end

    # Common practice, no source: tighter spacing turns separate marks into a tube.
    it "closes up as the spacing tightens" do
      gaps = [
        1.5,
        1.0,
        0.5
      ].map { |spacing|
        paint(round_preset(stroke: {"spacing" => spacing}), line(50, 60, 450, 60)).alpha[60,
          50...450].then { |row|
          (row < 0.5).count_true
        }
      }
      expect(gaps[0]).to be > 100
      expect(gaps.last).to eq(0)
    end
  end

  describe "responses" do
    # Common practice, no source: a size response of nothing gives one constant width.
    it "keeps the width with from = to = 1" do
      painted = paint(round_preset(response: [by_pressure("size", 1, 1)]), line(50, 60, 450, 60) { _1 })
      expect(painted.dabs.map(&:size).uniq).to eq([40.0])
      widths = painted.alpha[true, 80...420].sum(0).to_a
      expect(widths.max - widths.min).to be < 0.5
    end

    it "answers to pressure through the curve" do
      painted = paint(
        round_preset(response: [by_pressure("size", 0.2, 1, [[0, 0], [0.5, 0.1], [1, 1]])]),
        line(50, 60, 450, 60) {
          0.5
        }
      )
      expect(painted.dabs.first.size).to be_within(1e-6).of(40 * (0.2 + 0.8 * 0.1))
    end

    it "multiplies several on one setting, adds angles, and holds the size within its limits" do
      preset = round_preset(
        response: [
          by_pressure("size", 0.5, 0.5),
          by_pressure("size", 0.5, 0.5),
          by_pressure(
            "angle",
            30,
            30
          ),
          by_pressure("angle", 12, 12)
],
        tip: {"size" => {"base" => 40, "minimum" => 15}}
      )
      one = paint(preset, line(50, 60, 450, 60)).dabs.first
      expect([one.size, one.angle]).to eq([15, 42])
    end

    it "makes darkness answer to pressure" do
      painted = paint(round_preset(response: [by_pressure("opacity", 0, 1)]), line(50, 60, 450, 60) { 0.5 })
      expect(painted.alpha.max).to be_within(1e-5).of(0.5)
    end
  end

  describe "one round dab" do
    it "sums to π·20² ± 0.5 % when hard and 40 px wide" do
      [[60.0, 60.0], [60.3, 59.7], [60.5, 60.5]].each do |x, y|
        expect(lay([dab(x:, y:)]).sum / (Math::PI * 400)).to be_within(0.005).of(1)
      end
    end

    it "agrees with an area counted by sixteen points a pixel" do
      alpha = lay([dab(x: 60.25, y: 59.6)])
      points = [0.125, 0.375, 0.625, 0.875]
      worst = (38..82).to_a.product((38..82).to_a).map do |row, column|
        inside = points.product(points).count { |a, b| Math.hypot(column + a - 60.25, row + b - 59.6) <= 20 } / 16.0
        (alpha[row, column] - inside).abs
      end
      expect(worst.max).to be < 0.13
    end

    it "falls from the hard core to the rim as 1 − smoothstep" do
      alpha = lay([dab(x: 60.5, y: 60.5)], S::RoundTip.new(hardness: 0.5))
      expect(alpha[60, 60]).to eq(1)
      t = (15 - 10) / 10.0
      expect(alpha[60, 75]).to be_within(1e-5).of(1 - t * t * (3 - 2 * t))
      expect(alpha[60, 81]).to eq(0)
    end

    # Common practice, no source: hard-pixel brushes have no half-covered pixels at all.
    it "is 0 or 1 only when crisp" do
      alpha = paint(round_preset(hardness: 0, tip: {"hard_pixels" => true}), line(50, 60, 450, 61) { _1 }).alpha
      expect(alpha.eq(0).count_true + alpha.eq(1).count_true).to eq(alpha.size)
    end

    it "is squeezed across its own axis, then turned" do
      flat = lay([dab(roundness: 0.5)])
      expect(flat.sum / (Math::PI * 200)).to be_within(0.01).of(1)
      expect([flat[60, 45], flat[45, 60]]).to eq([1, 0])
      turned = lay([dab(roundness: 0.5, angle: 90.0)])
      expect([turned[60, 45], turned[45, 60]]).to eq([0, 1])
      leaning = lay([dab(roundness: 0.3, angle: 45.0)])
      expect([leaning[48, 72], leaning[72, 72]]).to eq([1, 0])
    end
  end

  describe "one picture dab" do
    let(:mark) { Fobrel::Core::Tip::Cover[Numo::SFloat.zeros(100, 100).tap { |v| v[10...90, 40...60] = 1 }] }
    let(:tip) { S::PictureTip.new(names: [mark.object_id]) { mark } }

    it "keeps its total cover at every size, place and turn" do
      [[60.0, 0], [33.3, 17], [20.0, 90], [47.1, 222]].each do |size, angle|
        expected = 1600 * (size / 100)**2
        expect(lay([dab(size:, angle: angle.to_f, x: 60.37, y: 59.81)], tip).sum / expected).to be_within(0.02).of(1)
      end
    end

    it "turns counter-clockwise about its centre" do
      upright = lay([dab(size: 60.0)], tip)
      lying = lay([dab(size: 60.0, angle: 90.0)], tip)
      expect([upright[40, 60], upright[60, 40]]).to eq([1, 0])
      expect((lying - upright.transpose).abs.max).to be < 0.02
      corner = Fobrel::Core::Tip::Cover[Numo::SFloat.zeros(100, 100).tap { |v| v[0...50, 50...100] = 1 }]
      turned = lay([dab(size: 60.0, angle: 90.0)], S::PictureTip.new(names: [corner.object_id]) { corner })
      expect([turned[45, 45], turned[45, 75], turned[75, 75]]).to eq([1, 0, 0])
    end

    # Of several frames, turned and not, one after the other in any order.
    def of_several(size)
      chance = Random.new(3)
      Array.new(12) { |index|
        place = {x: 30 + chance.rand * 60, y: 30 + chance.rand * 60}
        angle = index.odd? ? 0.0 : chance.rand * 360
        dab(size:, angle:, roundness: 0.4 + chance.rand * 0.6, flow: 0.6, frame: index % 3, **place)
      }
    end

    it "of several frames lie as they do one by one, small or so large that copies are held in 16 bit" do
      marks = [30, 60, 90].map { |wide|
        Fobrel::Core::Tip::Cover[Numo::SFloat.zeros(100, 100).tap {
          _1[10...wide, 20...80] = 1
        }]
      }
      names = marks.map(&:object_id)
      [14.0, 60.0, 400.0].each do |size|
        dabs = of_several(size)
        together = lay(dabs, S::PictureTip.new(names:) { marks[_1] })
        through = dabs.map { |one|
          1 - lay([one.dup.tap { _1.frame = 0 }], S::PictureTip.new(names: [names[one.frame]]) { marks[one.frame] })
        }
        expect((1 - through.inject(:*) - together).abs.max).to be < 2e-5, "at #{size} px"
      end
    end

    it "covers the same pixels by as much, however large the patch is that is computed" do
      [tip, S::RoundTip.new(hardness: 0.3)].each do |one|
        list = [dab(size: 33.3, angle: 31.0, x: 60.37, y: 59.81)]
        close, wide = [41, 63].map { |side| one.cover(S::Batch.new(list, side))[0, true, true].dup }
        expect(wide[11...52, 11...52]).to eq(close)
      end
    end

    # Common practice, no source: in order means 1, 2, 3, 1, 2, 3; one single frame is valid.
    it "takes the frames in order" do
      preset = Preset.build(
        "Reel",
        {
          "tip" => {
            "form" => {
              "kind" => "picture",
              "frames" => %w[a b c].map {
                sha(_1)
              }
            },
            "size" => {"base" => 10}
          }
        }
      )
      frames = S::Dabs.new(preset).along(S::Path.through(line(0, 0, 6, 0))).map(&:frame)
      expect(frames).to eq([0, 1, 2, 0, 1, 2, 0])
    end
  end

  describe "building up" do
    it "gives c · (1 − (1 − m·flow)ⁿ) for n equal dabs on one spot" do
      expect(lay([dab(flow: 0.1)] * 10)[60, 60]).to be_within(1e-4).of(0.6513)
      expect(lay([dab(flow: 0.3, opacity: 0.7)] * 4)[60, 60]).to be_within(1e-4).of(0.7 * (1 - 0.7**4))
    end

    # Common practice, no source: opacity is the ceiling of a whole stroke; flow builds up
    # where it crosses itself.
    it "never passes the ceiling, however often a stroke crosses itself" do
      preset = round_preset(size: 30, paint: {"opacity" => 0.6, "flow" => 0.05})
      samples = S::SampleStroke.fetch("crossing").samples
      once = paint(preset, samples, page: [700, 120]).alpha
      twice = paint(
        preset,
        samples.pick([*0...samples.size, *(0...samples.size).to_a.reverse]),
        page: [700, 120]
      ).alpha
      expect(twice.max).to be <= 0.6 + 1e-6
      expect(twice.sum).to be > once.sum * 1.2
    end

    it "keeps what lies there when a later dab has a lower ceiling" do
      expect(lay([dab(opacity: 0.8), dab(opacity: 0.3)])[60, 60]).to be_within(1e-6).of(0.8)
    end

    # Outside reference: libvips' own compositing (source-over, Porter & Duff 1984).
    it "lays the stroke on paper as libvips does" do
      painted = paint(round_preset(hardness: 0.3), S::SampleStroke.fetch("swell").samples, page: [700, 120])
      ours = Vips::Image.new_from_buffer(painted.to_png(paper: S::Colour.parse("#c8b48a")), "")
      lone = Vips::Image.new_from_buffer(painted.to_png, "")
      theirs = lone.flatten(background: [0xc8, 0xb4, 0x8a])
      expect((ours - theirs).abs.max).to be <= 1.01
    end
  end

  describe "grain" do
    def stones(seed)
      chance = Random.new(seed)
      Fobrel::Core::Tip::Cover[Array.new(40) { Array.new(40) { chance.rand } }]
    end

    # How alike the painted cover is to itself some way on along the stroke, over several grains.
    def streak(travel)
      (1..5).sum do |seed|
        asset = stones(seed).to_png
        preset = round_preset(
          grain: {"asset" => sha(asset), "depth" => 1, "travel" => travel, "scale" => 3},
          stroke: {"spacing" => 0.05},
          paint: {"flow" => 0.2}
        )
        band = paint(preset, line(50, 60, 450, 60), assets: {sha(asset) => asset}).alpha[48..72, 100...400]
        band -= band.mean
        (band[true, 0...-6] * band[true, 6..]).sum / (band * band).sum
      end / 5
    end

    it "leaves cover × (1 − depth · (1 − g)), lying on the page" do
      grain = S::Grain.new(stones(1), {"scale" => 1, "travel" => 1, "invert" => false}, name: "stones")
      left = grain.transmittance(dab(depth: 0.5), 45, 83, 1, 1)
      expect(left[0]).to be_within(1e-6).of(1 - 0.5 * (1 - stones(1).values[3, 5]))
    end

    # Common practice, no source: the less the grain travels over the page, the streakier.
    it "is streakier the lower the travel" do
      measured = [1, 0.7, 0.4, 0.1].map { streak(_1) }
      expect(measured).to eq(measured.sort)
      expect(measured.last - measured.first).to be > 0.3
    end
  end

  describe "a strip" do
    let(:preset) {
      round_preset(
        size: 20,
        response: [
          by_pressure("size", 0.1, 1),
          {"drives" => "angle", "by" => "random", "from" => 0, "to" => 360, "curve" => [[0, 0], [1, 1]]}
],
        tip: {"roundness" => 0.4},
        stroke: {"scatter" => {"across" => 0.4, "along" => 0}}
      )
    }

    it "is the same picture in every process" do
      script = 'require "fobrel/core"; include Fobrel::Core; print ' \
        "Digest::SHA256.hexdigest(Stroke::Strip.png(Preset::Preset[JSON.parse(STDIN.read)]))"
      other, = Open3.capture2(
        RbConfig.ruby,
        "-I",
        File.expand_path("../../lib", __dir__),
        "-e",
        script,
        stdin_data: JSON.generate(preset.to_h)
      )
      expect(other).to eq(Digest::SHA256.hexdigest(S::Strip.png(preset)))
    end

    it "has the shape it is asked for, and a huge brush still fits" do
      huge = round_preset(size: 4000)
      image = Vips::Image.new_from_buffer(S::Strip.png(huge, shape: "peek"), "")
      expect([image.width, image.height, image.bands]).to eq([536, 240, 4])
      expect(image[3].avg).to be_between(20, 200)
    end

    it "names the picture that is missing" do
      lost = Preset.build(
        "Lost",
        {"tip" => {"form" => {"kind" => "picture", "frames" => [sha("x")]}, "size" => {"base" => 10}}}
      )
      expect {
        S::Strip.png(lost)
      }.to raise_error(Fobrel::Core::Preset::MissingNeed, /“Lost” needs the picture sha256:/)
    end

    it "says what it cannot paint" do
      ribbon = Preset.build("Band", round_preset.to_h.slice("tip").merge("method" => "ribbon"))
      expect { S::Strip.png(ribbon) }.to raise_error(S::Painter::CannotPaint, /“Band” is a ribbon and needs a drawing/)
    end

    it "names the sample strokes there are" do
      expect { S::SampleStroke.fetch("../secret") }.to raise_error(S::SampleStroke::Unknown, /There are: .*swell/)
    end
  end
end
