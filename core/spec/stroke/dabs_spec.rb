# frozen_string_literal: true

# Places of dabs against hand calculation, and that computing dabs together changes nothing.
RSpec.describe Fobrel::Core::Stroke::Dabs do
  def along(preset, list, seed: 1)
    described_class.new(preset).along(S::Path.through(S::Samples.from_list(list)), seed:)
  end

  def circle(radius, count, turns: 1.0)
    (0..count).map { |i|
      {
        "x" => 300 + radius * Math.cos(2 * Math::PI * turns * i / count),
        "y" => 300 - radius * Math.sin(2 * Math::PI * turns * i / count)
      }
    }
  end

  it "lie evenly on a circle, by the arc and not by the chord" do
    dabs = along(round_preset(size: 20, stroke: {"spacing" => 0.5}), circle(100, 72))
    angles = dabs.map { Math.atan2(300 - _1.y, _1.x - 300) % (2 * Math::PI) }
    steps = angles.each_cons(2).map { (_2 - _1) % (2 * Math::PI) }
    expect(steps).to all(be_within(0.002).of(10 / 100.0))
    expect(dabs.size).to eq((2 * Math::PI * 100 / 10).floor + 1)
    expect(dabs.map { (Math.hypot(_1.x - 300, _1.y - 300) - 100).abs }.max).to be < 0.1
  end

  # Hand calculation: two responses that drive the size multiply, at every stop.
  it "are as large as all that drives their size says together" do
    response = [by_pressure("size", 0.5, 0.5), by_pressure("size", 0.2, 1.0)]
    dabs = described_class.new(round_preset(size: 40, response:)).along(S::Path.through(line(0, 0, 200, 0) { |u| u }))
    expect(dabs.first.size).to be_within(1e-9).of(40 * 0.5 * 0.2)
    dabs.each { |dab| expect(dab.size).to be_within(1e-6).of(40 * 0.5 * (0.2 + 0.8 * dab.x / 200)) }
  end

  # What is painted stays the same from version to version only if chance is asked in the same order: once for the
  # stroke; then at each stop for what chance drives, then for how each dab strays.
  it "ask chance in one order" do
    response = [{"drives" => "opacity", "by" => "random", "from" => 0.0, "to" => 1.0}]
    preset = round_preset(size: 40, response:, stroke: {"spacing" => 0.5, "scatter" => {"across" => 0.5, "along" => 0}})
    dabs = described_class.new(preset).along(S::Path.through(line(0, 100, 200, 100)), seed: 7)
    chance = Random.new(7).tap(&:rand)
    expected = dabs.map { [chance.rand, 100 - (chance.rand * 2 - 1) * 0.5 * 40].tap { chance.rand } }
    dabs.zip(expected).each do |dab, (opacity, y)|
      expect([dab.opacity, dab.y]).to match([be_within(1e-9).of(opacity), be_within(1e-9).of(y)])
    end
  end

  it "take the frame that a response says at their own stop" do
    tip = {"kind" => "picture", "frames" => Array.new(4) { |i| "sha256:#{i.to_s * 64}" }}
    preset = round_preset(size: 40, tip: {"form" => tip}, response: [by_pressure("frame", 0.0, 1.0)])
    dabs = described_class.new(preset).along(S::Path.through(line(0, 0, 200, 0) { |u| u }))
    expect(dabs.map(&:frame)).to eq(dabs.map { |dab| (dab.x / 50).floor.clamp(0, 3) })
    expect(dabs.map(&:frame).uniq).to eq([0, 1, 2, 3])
  end

  it "close a closed path where its length is a multiple of the spacing" do
    list = [
      [0, 0],
      [100, 0],
      [100, 100],
      [0, 100],
      [0, 0]
    ].each_cons(2).flat_map { |(x1, y1), (x2, y2)|
      (0...50).map { |i|
        {"x" => x1 + (x2 - x1) * i / 50.0, "y" => y1 + (y2 - y1) * i / 50.0}
      }
    }
    dabs = along(round_preset(size: 20, stroke: {"spacing" => 0.5}), list + [{"x" => 0, "y" => 0}])
    expect(dabs.size).to be_between(40, 41)
    expect(Math.hypot(dabs[10].x - 100, dabs[10].y)).to be < 1.5
  end

  it "set several at each place when counted" do
    dabs = along(
      round_preset(size: 20, stroke: {"spacing" => 1, "marks_per_step" => 3}),
      [{"x" => 0, "y" => 0}, {"x" => 100, "y" => 0}]
    )
    expect(dabs.map { _1.x.round }.tally).to eq([0, 20, 40, 60, 80, 100].to_h { [_1, 3] })
  end

  # Left of a line to the right is up, left of a line up is left: what scatters turns with the line.
  it "scatter to the same sides of the line whichever way it runs" do
    stroke = {"spacing" => 0.5, "scatter" => {"across" => 1.0, "along" => 0.6}}
    strewn = ->(x, y) {
      dabs = along(round_preset(size: 20, stroke:), [{"x" => 0, "y" => 0}, {"x" => x, "y" => y}], seed: 5)
      way = [x, y].map { _1 / 200.0 }
      dabs.each_with_index.map do |dab, index|
        off = [dab.x - way[0] * index * 10, dab.y - way[1] * index * 10]
        # Onward and to the left of the line.
        [off[0] * way[0] + off[1] * way[1], off[0] * way[1] - off[1] * way[0]]
      end
    }
    right = strewn[200, 0]
    [[0, -200], [-200, 0], [0, 200], [120, -160]].each do |x, y|
      strewn[x, y].zip(right).each do |found, expected|
        expect(found).to match(expected.map { be_within(1e-6).of(_1) })
      end
    end
    expect(right.map { _1[1] }.minmax).to match([be < -5, be > 5])
  end

  it "scatter across and along the line as far as told, evenly to both sides" do
    dabs = along(
      round_preset(size: 20, stroke: {"spacing" => 0.05, "scatter" => {"across" => 1.5, "along" => 0}}),
      [{"x" => 0, "y" => 0}, {"x" => 900, "y" => 0}]
    )
    expect(dabs.map { _1.y.abs }.max).to be_between(28, 30)
    expect(dabs.sum(&:y) / dabs.size).to be_within(2.5).of(0)
    onward = along(
      round_preset(size: 20, stroke: {"spacing" => 0.5, "scatter" => {"across" => 0, "along" => 0.4}}),
      [{"x" => 0, "y" => 0}, {"x" => 900, "y" => 0}]
    )
    expect(onward.map { _1.y.abs }.max).to be < 1e-9
    expect(onward.each_with_index.map { |dab, i| (dab.x - 10 * i).abs }.max).to be_between(7, 8)
  end

  it "turn with the line when direction drives the angle through a whole turn" do
    follow = {"drives" => "angle", "by" => "direction", "from" => 0, "to" => 360, "curve" => [[0, 0], [1, 1]]}
    dabs = along(round_preset(size: 10, response: [follow]), circle(100, 72, turns: 0.9))
    dabs.each do |dab|
      tangent = (Math.atan2(300 - dab.y, dab.x - 300) * 180 / Math::PI + 90) % 360
      expect(((dab.angle - tangent + 180) % 360 - 180).abs).to be < 2.5
    end
  end

  it "leave to chance only what the seed does not fix" do
    jitter = %w[size opacity angle].map {
      {"drives" => _1, "by" => "random", "from" => 0.2, "to" => 1, "curve" => [[0, 0], [1, 1]]}
    }
    runs = [1, 1, 2].map { |seed| along(round_preset(response: jitter), circle(80, 40), seed:).map(&:report) }
    expect(runs[0]).to eq(runs[1])
    expect(runs[0]).not_to eq(runs[2])
  end

  it "have one chance for a whole stroke where a response asks for that" do
    by_stroke = {"drives" => "size", "by" => "stroke", "from" => 0.2, "to" => 1, "curve" => [[0, 0], [1, 1]]}
    expect(along(round_preset(response: [by_stroke]), circle(80, 40)).map(&:size).uniq.size).to eq(1)
  end

  it "feel speed, distance and time as they pass" do
    list = (0..100).map { |i| {"x" => i**2 * 0.09, "y" => 0, "t" => i * 8} }
    read = lambda do |by|
      response = {"drives" => "opacity", "by" => by, "from" => 0, "to" => 1, "curve" => [[0, 0], [1, 1]]}
      along(round_preset(size: 10, response: [response]), list).map(&:opacity)
    end
    expect(read["speed"].each_slice(10).map { _1.sum / _1.size }.each_cons(2)).to all(satisfy { |a, b| b >= a - 1e-9 })
    expect(read["distance"].last).to be_within(0.01).of(0.9)
    expect(read["time"].last).to be_within(0.01).of(0.4)
  end

  describe "computed together" do
    def lay_each(dabs, tip)
      alpha = Numo::DFloat.zeros(200, 300)
      dabs.each { |dab|
        alpha += (dab.opacity - alpha).clip(
          0,
          1
        ) * Numo::DFloat.cast(
          S::Layer.new(300, 200).lay(
            [
              dab.dup.tap { |one|
                one.opacity = 1.0
              }
            ],
            tip
          )
        )
      }
      alpha
    end

    def random_dabs(count, sizes, **same)
      chance = Random.new(9)
      Array.new(count) do
        plain = {
          x: chance.rand * 320 - 10,
          y: chance.rand * 220 - 10,
          size: sizes.begin + chance.rand * (sizes.end - sizes.begin),
          angle: chance.rand * 360,
          roundness: 1.0,
          opacity: 1.0,
          flow: 0.2 + chance.rand * 0.8,
          frame: 0,
          depth: 0.0,
          hue: 0.0,
          saturation: 0.0,
          lightness: 0.0,
          mix: 0.0
        }
        described_class::Dab.new(*plain.merge(same).values_at(*described_class::Dab.members))
      end
    end

    {
      "small and round" => [3..18, {}],
      "large and round" => [30..90, {}],
      "small to large, flat" => [4..60, {roundness: 0.4}],
      "with several ceilings" => [10..50, {}]
    }.each do |what, (sizes, same)|
      it "give the same as one by one: #{what}" do
        dabs = random_dabs(60, sizes, **same)
        dabs.each_with_index { |dab, i| dab.opacity = [0.4, 0.9][i % 2] } if what.include?("ceilings")
        tip = S::RoundTip.new(hardness: 0.6)
        expect((S::Layer.new(300, 200).lay(dabs, tip) - lay_each(dabs, tip)).abs.max).to be < 2e-4
      end
    end

    it "give the same as one by one: pictures" do
      cover = Fobrel::Core::Tip::Cover[Numo::SFloat.zeros(40, 40).tap { |v| v[5..34, 15..24] = 1 }]
      dabs = random_dabs(40, 6..70)
      tip = S::PictureTip.new(names: ["bar"]) { cover }
      expect((S::Layer.new(300, 200).lay(dabs, tip) - lay_each(dabs, tip)).abs.max).to be < 2e-4
    end
  end
end
