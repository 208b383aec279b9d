# frozen_string_literal: true

RSpec.describe Fobrel::Core::Stroke::Curve do
  # Outside reference: SciPy's PchipInterpolator (pchip_values.py makes the values anew).
  JSON.parse(File.read(File.join(__dir__, "pchip_values.json"))).each do |row|
    it "agrees with SciPy through #{row["points"].inspect}" do
      curve = described_class.through(row["points"])
      expect(row["x"].zip(row["y"]).map { |x, y| (curve.at(x) - y).abs }.max).to be < 1e-12
    end
  end

  it "never leaves the range of the points beside it" do
    chance = Random.new(5)
    200.times do
      xs = Array.new(6) { chance.rand }.sort.uniq
      points = xs.map { [_1, chance.rand] }
      curve = described_class.through(points)
      points.each_cons(2) do |(x1, y1), (x2, y2)|
        inside = (0..10).map { curve.at(x1 + (x2 - x1) * _1 / 10.0) }
        expect(inside.min).to be >= [y1, y2].min - 1e-12
        expect(inside.max).to be <= [y1, y2].max + 1e-12
      end
    end
  end

  it "stays level beyond its ends and refuses points that run back" do
    curve = described_class.through([[0.2, 0.5], [0.8, 0.9]])
    expect([curve.at(-1), curve.at(2)]).to eq([0.5, 0.9])
    expect { described_class.through([[0, 0], [0, 1]]) }.to raise_error(ArgumentError)
  end
end
