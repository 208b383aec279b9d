# frozen_string_literal: true

RSpec.describe Fobrel::Core::Stroke::Sensors do
  def leaning(tilt_x, tilt_y)
    rows = [[0, 0], [100, 0]].map { |x, y| {"x" => x, "y" => y, "tiltX" => tilt_x, "tiltY" => tilt_y} }
    path = S::Path.through(S::Samples.from_list(rows))
    sensors = described_class.new(path, Random.new(1))
    ->(name) { sensors.reading(name, path.at(50)) }
  end

  # W3C Pointer Events Level 3, azimuthAngle: 0 to the right, π/2 towards the person. An angle here runs the other
  # way round, as all angles of a preset do (docs/rules.md).
  {[45, 0] => 0.0, [0, 45] => 0.75, [-45, 0] => 0.5, [0, -45] => 0.25, [45, 45] => 0.875}.each do |tilt, part|
    it "reads the direction of a lean of #{tilt} as #{part} of a turn" do
      expect(leaning(*tilt)["tilt direction"]).to be_within(1e-9).of(part)
    end
  end

  # The same section: altitude π/2 is upright, 0 flat on the surface.
  it "reads an upright pen as 0, a half lean as a half, a flat pen as 1" do
    expect([[0, 0], [45, 0], [90, 0]].map { leaning(*_1)["tilt"].round(9) }).to eq([0, 0.5, 1])
  end

  # Common practice, no source.
  it "reads a line to the right as no turn, a line up as a quarter" do
    [[[100, 0], 0.0], [[0, -100], 0.25], [[-100, 0], 0.5], [[0, 100], 0.75]].each do |(x, y), part|
      path = S::Path.through(S::Samples.from_list([{"x" => 0, "y" => 0}, {"x" => x, "y" => y}]))
      expect(described_class.new(path, Random.new(1)).reading("direction", path.at(50))).to be_within(1e-9).of(part)
    end
  end

  it "reads speed, distance and time against what they reach" do
    rows = Array.new(21) { |i| {"x" => i * 75, "y" => 0, "t" => 500 + i * 50} }
    path = S::Path.through(S::Samples.from_list(rows))
    sensors = described_class.new(path, Random.new(1))
    sensor = ->(name) { sensors.column(name, [path.at(750)]).first }
    expect(sensor["speed"]).to be_within(1e-6).of(1.5 / described_class::FAST)
    expect(sensor["distance"]).to be_within(1e-9).of(0.75)
    expect(sensor["time"]).to be_within(1e-6).of(500 / described_class::LONG)
    expect { sensor["luck"] }.to raise_error(KeyError, /luck/)
  end

  it "reads 1 at what it reaches and beyond, and no speed where time stands still" do
    at = lambda do |ms, x|
      list = Array.new(21) { |i| {"x" => i * 100, "y" => 0, "t" => i * ms} }
      path = S::Path.through(S::Samples.from_list(list))
      sensors = described_class.new(path, Random.new(1))
      %w[speed time distance].map { |name| sensors.reading(name, path.at(x)).round(6) }
    end
    expect(at[10, 1500]).to eq([1.0, 0.075, 1.0])
    expect(at[200, 1500]).to eq([(0.5 / described_class::FAST).round(6), 1.0, 1.0])
    expect(at[0, 500]).to eq([0.0, 0.0, 0.5])
    # At both ends speed is read over what there is of the way.
    expect([at[100, 0].first, at[100, 2000].first]).to eq([(1 / described_class::FAST).round(6)] * 2)
  end
end
