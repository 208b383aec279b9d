# frozen_string_literal: true

RSpec.describe Fobrel::Core::Stroke::Path do
  def circle(radius, count)
    S::Samples.from_list(
      (0..count).map { |i|
        {
          "x" => 500 + radius * Math.cos(2 * Math::PI * i / count),
          "y" => 500 - radius * Math.sin(2 * Math::PI * i / count)
        }
      }
    )
  end

  it "measures a straight line exactly" do
    expect(described_class.through(line(10, 20, 310, 420)).length).to be_within(1e-6).of(500)
  end

  it "measures arcs to within 0.1 px of a hundred times finer steps" do
    samples = S::SampleStroke.fetch("crossing").samples
    coarse = described_class.through(samples).length
    stub_const("Fobrel::Core::Stroke::Path::STEP", 0.01)
    expect(coarse).to be_within(0.1).of(described_class.through(samples).length)
  end

  it "follows a circle" do
    path = described_class.through(circle(200, 64))
    expect(path.length).to be_within(0.5).of(2 * Math::PI * 200)
    off = (0..40).map { |i| path.at(path.length * i / 40) }.map { |at| (Math.hypot(at.x - 500, at.y - 500) - 200).abs }
    expect(off.max).to be < 0.1
    expect(path.at(path.length / 2).direction).to be_within(0.1).of(-Math::PI / 2)
  end

  # Outside reference: Barry and Goldman's pyramid, written anew in Python; catmull_rom_values.py.
  JSON.parse(File.read(File.join(__dir__, "catmull_rom_values.json"))).each_with_index do |one, index|
    it "is the centripetal Catmull–Rom spline, points #{index}" do
      path = described_class.through(S::Samples.from_list(one["points"].map { |x, y| {"x" => x, "y" => y} }))
      places = (0..(path.length * 20).to_i).map { |twentieth| path.at(twentieth / 20.0) }
      one["on_it"].each do |_, _, x, y|
        expect(places.map { |place| Math.hypot(place.x - x, place.y - y) }.min).to be < 0.06
      end
    end
  end

  it "goes through every sample" do
    path = described_class.through(
      S::Samples.from_list(
        [[0, 0], [40, 90], [50, 92], [200, 10]].map {
          {"x" => _1, "y" => _2}
        }
      )
    )
    places = (0..4000).map { |part| path.at(path.length * part / 4000) }
    [[40, 90], [50, 92]].each { |x, y| expect(places.map { |at| Math.hypot(at.x - x, at.y - y) }.min).to be < 0.1 }
  end

  it "reads the sensors by arc length" do
    path = described_class.through(line(0, 0, 100, 0, count: 3) { _1 })
    expect(path.at(25).pressure).to be_within(1e-9).of(0.25)
  end

  it "is a point where the pen did not move" do
    path = described_class.through(
      S::Samples.from_list(
        [
          {"x" => 5, "y" => 6, "pressure" => 0.2},
          {"x" => 5, "y" => 6, "pressure" => 0.8}
        ]
      )
    )
    expect([path.length, path.at(0).to_h.slice(:x, :y, :pressure)]).to eq([0.0, {x: 5.0, y: 6.0, pressure: 0.8}])
  end

  [
    [nil],
    [[]],
    [[{"x" => "a", "y" => 1}]],
    [[{"x" => Float::NAN, "y" => 1}]],
    [[{"y" => 1}]],
    [[{"x" => 1e9, "y" => 1}]]
  ].each do |(list)|
    it "refuses #{list.inspect[0, 40]} in words" do
      expect { S::Samples.from_list(list) }.to raise_error(S::Samples::Invalid)
    end
  end

  it "holds pressure within 0 and 1" do
    expect(S::Samples.from_list([{"x" => 0, "y" => 0, "pressure" => 7}]).pressure).to eq([1.0])
  end
end
