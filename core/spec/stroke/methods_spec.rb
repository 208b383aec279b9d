# frozen_string_literal: true

# Properties marked "common practice" have no published source.
RSpec.describe Fobrel::Core::Stroke do
  def painted(preset, samples, page: [500, 120], **rest)
    given = rest.slice(:assets, :seed)
    S::Painter.new(preset, **given).paint(samples, page:, **rest.except(*given.keys))
  end

  def picture_preset(pngs, method: "dabs", tip: {}, size: 40, ends: {}, **groups)
    Preset.build(
      "Picture",
      {
        "method" => method,
        "tip" => {
          "form" => {
            "kind" => "picture",
            "frames" => pngs.map {
              sha(_1)
            }
          }.merge(tip),
          "size" => {"base" => size},
          "ends" => ends
        }
      }.merge(groups.transform_keys(&:to_s))
    )
  end

  def assets(*pngs) = pngs.to_h { [sha(_1), _1] }

  def tip_png(values) = Fobrel::Core::Tip::Cover[values].to_png

  let(:ground) { S::Page.plain(500, 120, S::Colour.parse("#a3312f")) }
  let(:half) {
    S::Page.new(
      S::Page.plain(500, 120, S::Colour.parse("#0f6b6b")).planes.map { |plane|
        plane.dup.tap {
          _1[true, 250..] = 0
        }
      }
    )
  }

  describe "smear" do
    def smear(own_paint: 0, mix: 0.3, **rest)
      Preset[round_preset(
        size: 40,
        hardness: 0.5,
        paint: {"mix" => mix, "own_paint" => own_paint},
        **rest
      ).to_h.merge("method" => "smear")]
    end

    # Common practice: a brush that only moves paint around leaves a blank page blank.
    it "leaves a blank page blank without paint of its own" do
      page = painted(smear, line(50, 60, 450, 60)).page
      expect(page.planes.map(&:max)).to eq([0, 0, 0, 0])
    end

    it "drags paint out over its edge, and back" do
      after = painted(smear(mix: 0.1), line(200, 60, 400, 60), ground: half).page.planes.first
      expect(after[60, 262..282].min).to be > 0.3
      expect(after[60, 420..].max).to be < 0.05
      expect(after[10, 255..].max).to eq(0)
    end

    # Dabs that are all alike are painted in the part of a square that they cover; one that is not, and lies beside the
    # page, makes it the whole.
    it "paints the same whether or not the patches are trimmed to what the tip covers" do
      dabs = Array.new(40) { |i|
        S::Dabs::Dab.new(20.3 + i * 5.7, 55 + Math.sin(i) * 40, 36.0, 25.0, 0.3, 1.0, 0.8, 0, 0.0, 0.0, 0.0, 0.0, 0.3)
      }
      beside = dabs.first.dup.tap { |dab| (dab.x = -400.0) && (dab.size = 35.0) }
      lay = ->(list) {
        tip = S::RoundTip.new(hardness: 1)
        S::WetLayer.new(half.planes).lay(list, tip, nil, S::Colour.parse("#0f6b6b"), 0.2)
      }
      expect(lay[[*dabs, beside]]).to eq(lay[dabs])
    end

    it "picks up faster the more it mixes" do
      reach = [0.05, 0.2, 0.6].map { |mix|
        painted(smear(mix:), line(200, 60, 450, 60), ground: half).page.planes.first[60, 250..].sum
      }
      expect(reach).to eq(reach.sort.reverse)
    end

    it "leaves an even ground as it is, and puts down its own paint when it has some" do
      same = painted(smear, line(50, 60, 450, 60), ground:).page
      expect(same.planes.zip(ground.planes).map { (_1 - _2).abs.max }.max).to be < 1e-5
      own = painted(smear(own_paint: 1), line(50, 60, 450, 60), ground:, colour: S::Colour.parse("#0000ff")).page
      expect(own.planes.map { _1[60, 250].to_f.round(3) }).to eq([1.0, 0.0, 0.0, 1.0])
    end
  end

  it "lets the grain of a ribbon hold paint back, and stay on the page" do
    bar = tip_png(Numo::SFloat.ones(20, 80))
    grain = grey_png(Array.new(16) { |y| Array.new(16) { |x| (x < 8) ? 0 : 255 } })
    preset = picture_preset([bar], method: "ribbon", grain: {"asset" => sha(grain), "depth" => 1, "travel" => 0})
    alpha = painted(preset, line(50, 60, 450, 60), assets: assets(bar, grain)).alpha
    expect([alpha[60, 200..216].max, alpha[60, 200..216].min]).to match([be > 0.95, be < 0.05])
  end

  it "erases what is there and paints nothing where nothing is" do
    eraser = round_preset(paint: {"eraser" => true})
    page = painted(eraser, line(50, 60, 450, 60), ground: half).page
    expect([page.planes.first[60, 150], page.planes.first[10, 150], page.planes.first[60, 350]]).to eq([0, 1, 0])
  end

  it "lays under what is there" do
    page = painted(
      round_preset(extras: {"behind" => true}),
      line(50, 60, 450, 60),
      ground: half,
      colour: S::Colour.parse("#ff0000")
    ).page
    expect(page.planes.map { _1[60, 150].to_f.round(3) }).to eq(half.planes.map { _1[60, 150].to_f.round(3) })
    expect(page.planes.map { _1[60, 350].to_f.round(3) }).to eq([1, 1, 0, 0])
  end

  it "blends with what is there by the preset's mode" do
    page = painted(
      round_preset(paint: {"blend" => "multiply"}),
      line(50, 60, 450, 60),
      ground:,
      colour: S::Colour.parse("#808080")
    ).page
    expect(page.planes[1][60, 250]).to be_within(1e-4).of(0xa3 / 255.0 * 0x80 / 255.0)
  end

  describe "a ribbon" do
    let(:wedge) { tip_png(Numo::SFloat.zeros(20, 200).tap { |v| (0...200).each { |x| v[0..(x / 10), x] = 1 } }) }

    # Common practice: art for a stretched ribbon is drawn in black and tinted.
    it "maps its long side to the arc and its cross side to the normal" do
      alpha = painted(picture_preset([wedge], method: "ribbon"), line(50, 60, 450, 60), assets: assets(wedge)).alpha
      filled = [0.1, 0.5, 0.9].map { |u| (alpha[true, (50 + 400 * u).round] > 0.5).count_true }
      expect(filled).to match([be_within(3).of(4), be_within(3).of(20), be_within(3).of(36)])
      expect([alpha[42, 430], alpha[78, 100]]).to match([be > 0.9, be < 0.1])
    end

    # A drawing of three parts: a wedge, an even middle, a wedge.
    it "keeps the length and shape of its ends within half a pixel while the stroke grows to three times its length" do
      drawing = tip_png(
        Numo::SFloat.zeros(20, 100).tap { |v|
          (0...100).each { |x| v[0...[(x + 1), 20, 100 - x].min, x] = 1 }
        }
      )
      preset = picture_preset([drawing], method: "ribbon", ends: {"first" => 0.2, "last" => 0.2})
      short, long = [200, 600].map { |length|
        painted(preset, line(20, 60, 20 + length, 60), page: [700, 120], assets: assets(drawing)).alpha
      }
      # How much of each row the ends cover, px: to a part of a pixel where each begins.
      begun = ->(alpha) { (44..58).map { |y| alpha[y, 20..59].sum } }
      ended = ->(alpha, right) { (44..58).map { |y| alpha[y, (right - 40)...right].sum } }
      begun[short].zip(begun[long]).each { |one, other| expect(other).to be_within(0.5).of(one) }
      ended[short, 220].zip(ended[long, 620]).each { |one, other| expect(other).to be_within(0.5).of(one) }
      plain = painted(
        picture_preset([drawing], method: "ribbon"),
        line(20, 60, 620, 60),
        page: [700, 120],
        assets: assets(drawing)
      )
      expect(begun[plain.alpha].last).to be < begun[long].last - 10
    end

    it "has no gaps in a bend and never passes the opacity" do
      full = tip_png(Numo::SFloat.ones(10, 40))
      preset = picture_preset([full], method: "ribbon", paint: {"opacity" => 0.6})
      circle = S::Samples.from_list(
        (0..60).map { |i|
          {"x" => 200 + 30 * Math.cos(i * 0.16), "y" => 60 - 30 * Math.sin(i * 0.16)}
        }
      )
      alpha = painted(preset, circle, assets: assets(full)).alpha
      expect(alpha.max).to be <= 0.6 + 1e-4
      ring = (0..59).map { |i| alpha[(60 - 30 * Math.sin(i * 0.15)).floor, (200 + 30 * Math.cos(i * 0.15)).floor] }
      expect(ring.min).to be > 0.55
    end
  end

  it "hangs a garland at one distance, turned to the line, whatever the size" do
    png = tip_png(Numo::SFloat.ones(10, 10))
    preset = picture_preset(
      [png],
      method: "garland",
      stroke: {"spacing" => 1.5},
      response: [by_pressure("size", 0.2, 1)]
    )
    dabs = painted(
      preset,
      S::Samples.from_list(
        [[100, 100], [100, 10]].each_with_index.map { |(x, y), i|
          {"x" => x, "y" => y, "pressure" => i}
        }
      ),
      assets: assets(png)
    ).dabs
    expect(dabs.each_cons(2).map { |a, b| a.y - b.y }).to all(be_within(0.1).of(60))
    expect(dabs.map(&:angle)).to all(be_within(0.5).of(90))
  end

  describe "a reel" do
    let(:pngs) { Array.new(6) { |i| tip_png([[1, i / 10.0], [0, 1]]) } }

    def frames(turn, count: 6, columns: 1, seed: 1, &pressure)
      preset = picture_preset(
        pngs.first(count),
        tip: {"turn" => turn, "columns" => columns},
        size: 4,
        stroke: {"spacing" => 1}
      )
      S::Dabs.new(preset).along(S::Path.through(line(0, 0, 400, 0, count: 41, &pressure)), seed:).map(&:frame)
    end

    it "shuffles by its seed, no frame twice running, every frame in turn" do
      row = frames("shuffled")
      expect(row.each_cons(2).count { _1 == _2 }).to eq(0)
      expect(row.tally.keys.sort).to eq([0, 1, 2, 3, 4, 5])
      expect(frames("shuffled")).to eq(row)
      expect(frames("shuffled", seed: 2)).not_to eq(row)
    end

    it "chooses by a sensor in equal bins" do
      row = frames("pressure") { _1 }
      expect(row).to eq(row.sort)
      expect(row.tally.values).to all(be_within(2).of(101 / 6.0))
    end

    it "chooses rows by one turn and columns by another" do
      row = frames(["pressure", "in order"], columns: 3) { _1 }
      expect(row.first(6)).to eq([0, 1, 2, 0, 1, 2])
      expect(row.last(4).map { _1 / 3 }).to all(eq(1))
    end

    it "is fine with one frame" do
      expect(frames("shuffled", count: 1).uniq).to eq([0])
    end
  end

  describe "colour" do
    # Common practice: five to eight per cent of hue shift over the pressure range looks like watercolour.
    it "shifts with a sensor" do
      preset = round_preset(
        response: [
          {
            "drives" => "hue",
            "by" => "pressure",
            "from" => 0,
            "to" => 120,
            "curve" => [[0, 0], [1, 1]]
          }
        ],
        stroke: {"spacing" => 0.05}
      )
      page = painted(preset, line(50, 60, 450, 60) { _1 }, colour: S::Colour.parse("#ff0000")).page
      expect(page.planes.map { _1[60, 32].to_f }).to match([1, 1, 0, 0].map { be_within(0.1).of(_1) })
      expect(page.planes.map { _1[60, 460].to_f }).to match([1, 0, 1, 0].map { be_within(0.1).of(_1) })
    end

    it "builds the same alpha whether colours vary or not" do
      plain = round_preset(hardness: 0.3, paint: {"flow" => 0.2, "opacity" => 0.7})
      shifted = Preset[plain.to_h.merge(
        "response" => [
          {
            "drives" => "hue",
            "by" => "random",
            "from" => 0,
            "to" => 90,
            "curve" => [[0, 0], [1, 1]]
          }
        ]
      )]
      alphas = [plain, shifted].map { painted(_1, line(50, 60, 450, 60)).alpha }
      expect((alphas[0] - alphas[1]).abs.max).to be < 1e-4
    end

    # Common practice: a coloured tip keeps its own, and then needs a transparent ground.
    it "keeps a tip's own colours, or tints it" do
      image = Vips::Image.black(
        20,
        20
      ).bandjoin([
        Vips::Image.black(20, 20) + 200,
        Vips::Image.black(20, 20),
        Vips::Image.black(20, 20) + 255
      ]).cast(:uchar).copy(interpretation: :srgb)
      png = image.draw_rect([250, 0, 0, 255], 0, 0, 10, 20, fill: true).pngsave_buffer
      own = painted(
        picture_preset([png], tip: {"colours" => "own"}, stroke: {"spacing" => 9}),
        line(100, 60, 110, 60),
        assets: assets(png)
      ).page
      expect(own.planes.map { _1[60, 85].to_f.round(2) }).to eq([1, 0.98, 0, 0])
      expect(own.planes.map { _1[60, 115].to_f.round(2) }).to eq([1, 0, 0.78, 0])
      tint = painted(
        picture_preset([png], stroke: {"spacing" => 9}),
        line(100, 60, 110, 60),
        assets: assets(png),
        colour: S::Colour.parse("#0000ff")
      ).page
      expect(tint.planes[1].max).to eq(0)
    end

    it "takes a white ground off a coloured picture" do
      image = Vips::Image.black(
        40,
        40
      ).bandjoin([Vips::Image.black(40, 40)] * 2).cast(:uchar).invert.copy(interpretation: :srgb)
      image = image.draw_rect([220, 40, 40], 10, 10, 20, 20, fill: true).draw_rect(
        [255, 255, 255],
        16,
        16,
        8,
        8,
        fill: true
      )
      picture = Fobrel::Core::Tip::Picture.read(image.pngsave_buffer)
      flood = Fobrel::Core::Tip::Paint.from_picture(picture, ground: "flood")
      expect([flood.planes[0][0, 0], flood.planes[0][20, 20], flood.planes[0][12, 12]]).to eq([0, 1, 1])
      melted = Fobrel::Core::Tip::Paint.from_picture(picture, ground: "unmultiply")
      expect([melted.planes[0][0, 0], melted.planes[0][20, 20]]).to eq([0, 0])
      back = melted.planes[1][12, 12] + 1 - melted.planes[0][12, 12]
      expect(back).to be_within(0.01).of(220 / 255.0)
    end
  end

  describe "smoothing" do
    let(:shaky) { S::SampleStroke.fetch("shaky").samples }

    # What is left of the tremor: how far the line leaves its own slow course.
    def tremor(samples)
      samples.y.each_cons(9).sum { |window| (window[4] - window.sum / 9)**2 }
    end

    it "leaves the samples as they are at nothing" do
      expect(S::Smoothing.smooth(shaky, 0)).to equal(shaky)
    end

    it "leaves less tremor the stronger it is, and ends where the pen ended" do
      steps = [0, 0.2, 0.4, 0.6, 0.8, 1].map { S::Smoothing.smooth(shaky, _1) }
      left = steps.map { tremor(_1) }
      expect(left.each_cons(2)).to all(satisfy { |a, b| b < a })
      expect(left.last).to be < left.first / 20
      expect(steps.map { |one| [one.x.last, one.y.last] }.uniq).to eq([[shaky.x.last, shaky.y.last]])
    end
  end

  describe "a shape" do
    let(:svg) {
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><rect x="25" y="0" width="50" height="100"/></svg>'
    }

    def shaped(svg, size: 60)
      Preset.build(
        "Shape",
        {
          "tip" => {"form" => {"kind" => "shape", "asset" => sha(svg)}, "size" => {"base" => size}},
          "stroke" => {"spacing" => 9}
        }
      )
    end

    it "is drawn at the size it is used at" do
      [20, 60, 100].each do |size|
        alpha = painted(shaped(svg, size:), line(200, 60, 210, 60), assets: assets(svg)).alpha
        expect(alpha.sum / (size * size * 0.5)).to be_within(0.03).of(1)
      end
    end

    [
      "<svg",
      "words",
      "<!DOCTYPE svg [<!ENTITY a \"b\">]><svg xmlns=\"http://www.w3.org/2000/svg\"/>",
      "<svg xmlns='http://www.w3.org/2000/svg'><"
    ].each do |bad|
      it "refuses #{bad[0, 30].inspect}" do
        expect {
          painted(shaped(bad), line(0, 0, 9, 9), assets: assets(bad))
        }.to raise_error(Fobrel::Core::Problem, /Nothing was kept/)
      end
    end

    it "loads nothing from outside" do
      Dir.mktmpdir do |folder|
        File.binwrite("#{folder}/black.png", Vips::Image.black(10, 10).pngsave_buffer)
        outside = <<~SVG
          <svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 10 10">
          <rect width="1" height="1"/>
          <image width="10" height="10" xlink:href="file://#{folder}/black.png"/></svg>
        SVG
        expect(Fobrel::Core::Tip::Vector.cover(outside, 100).mean).to be < 0.02
      end
    end
  end

  describe "odd input" do
    it "paints one sample and a stroke of no length as one dab" do
      [[{"x" => 60, "y" => 60}], [{"x" => 60, "y" => 60, "t" => 5}] * 4].each do |list|
        expect(painted(round_preset, S::Samples.from_list(list)).dabs.size).to eq(1)
      end
    end

    it "stands time standing still, and every sensor" do
      list = (0..30).map { |i|
        {"x" => 50 + 10 * i, "y" => 60, "pressure" => 2, "tiltX" => 90, "tiltY" => -90, "t" => 7}
      }
      responses = %w[
        size
        opacity
        flow
        angle
        roundness
        scatter
        hue
        saturation
        lightness
        frame
        mix
      ].zip(%w[pressure tilt speed direction distance time random stroke pressure speed time] + ["tilt direction"])
        .map { |drives, by|
        {"drives" => drives, "by" => by, "from" => 0, "to" => 1, "curve" => [[0, 0], [1, 1]]}
      }
      preset = round_preset(
        response: responses,
        stroke: {"smoothing" => 0.5, "scatter" => {"across" => 1, "along" => 1}}
      )
      expect(painted(preset, S::Samples.from_list(list)).alpha.isnan.any?).to be false
    end

    it "refuses what would take for ever, in words" do
      expect {
        painted(
          round_preset(stroke: {"spacing" => 0, "marks_per_step" => 32}),
          line(0, 0, 90_000, 0)
        )
      }.to raise_error(Fobrel::Core::Problem, /dabs|long/)
      expect {
        painted(round_preset, line(0, 0, 9, 9), page: [20_000, 20_000])
      }.to raise_error(S::Painter::CannotPaint, /too large/)
    end

    it "paints a tip of 5,000 px on a page it does not fit" do
      expect(painted(round_preset(size: 5000), line(250, 60, 260, 60)).alpha.min).to eq(1)
    end
  end

  it "ships sample strokes that each paint, the same every time" do
    expect(S::SampleStroke.names).to match_array(%w[swell press tilt flick hatching taps shaky crossing turn])
    reports = S::SampleStroke.names.map {
      painted(round_preset(size: 12), S::SampleStroke.fetch(_1).samples, page: [700, 120])
    }
    expect(reports.map { _1.alpha.sum }).to all(be > 500)
  end
end
