# frozen_string_literal: true

RSpec.describe Fobrel::Core::Stroke::Adjustments do
  # Samples whose pressures are these, along a line.
  def pressed(pressures)
    S::Samples.from_list(
      pressures.each_with_index.map { |pressure, i|
        {"x" => i * 4, "y" => 20, "pressure" => pressure, "tiltX" => 30, "tiltY" => 10, "t" => i * 8}
      }
    )
  end

  it "bends pressure, mirrors the lean, and leaves places and times alone" do
    adjustments = described_class["curve" => [[0, 0], [0.25, 0.5], [1, 1]], "mirrored" => true]
    expect(adjustments.movement(pressed([0, 0.25, 1])).columns).to eq(
      {x: [0, 4, 8], y: [20] * 3, pressure: [0, 0.5, 1], tilt_x: [-30] * 3, tilt_y: [10] * 3, t: [0, 8, 16]}
    )
    expect(described_class[{}].movement(pressed([0.3])).pressure).to eq([0.3])
  end

  it "lays itself over a brush without changing it" do
    brush = round_preset(size: 300, stroke: {"smoothing" => 0.1})
    before = brush.fingerprint
    mine = described_class["smoothing" => 0.4, "maximum_size" => 120].brush(brush)
    expect([mine["stroke", "smoothing"], mine["tip", "size"].values_at("base", "maximum")]).to eq([0.4, [120, 120]])
    expect([brush.fingerprint, described_class["smoothing" => 0.05].brush(brush).fingerprint]).to eq([before, before])
  end

  # The fitted curve turns the hand's own spread of pressure into an even one.
  [
    ["light", ->(u) { u * 0.4 }],
    ["heavy", ->(u) { 0.5 + u * 0.5 }],
    [
      "quick to rise",
      ->(u) {
        u**0.4
      }
    ]
  ].each do |kind, press|
    it "is fitted to a #{kind} hand" do
      strokes = Array.new(3) { pressed((0..60).map { |i| press.call(i / 60.0) }) }
      adjustments = described_class["curve" => described_class.fit(strokes)]
      even = strokes.flat_map { |stroke| adjustments.movement(stroke).pressure }.sort
      [0.1, 0.3, 0.5, 0.7, 0.9].each { |share| expect(even[(even.size * share).round]).to be_within(0.06).of(share) }
    end
  end

  it "says so when there is nothing to fit, or the settings are none" do
    expect { described_class.fit([pressed([0.2, 0.9])]) }.to raise_error(described_class::Invalid, /too little/)
    expect {
      described_class.fit([pressed([0.5] * 90)])
    }.to raise_error(described_class::Invalid, /pressure never changed/)
    [
      {"curve" => [[0, 0]]},
      {"curve" => [[0, 0], [0, 1]]},
      {"curve" => "x"},
      {"curve" => [[0, 2], [1, 1]]},
      {"smoothing" => 3},
      {"maximum_size" => 0},
      {"maximum_size" => "big"}
    ].each do |settings|
      expect { described_class[settings] }.to raise_error(described_class::Invalid, /Nothing was changed/)
    end
  end
end

RSpec.describe Fobrel::Core::Stroke::StandIn do
  let(:movement) { S::SampleStroke.fetch("swell").samples }

  it "presses lightly, heavily, or like a mouse not at all differently" do
    plain = movement.pressure.sum
    light, heavy, mouse = %w[light heavy mouse].map { |name| described_class.fetch(name).movement(movement).pressure }
    expect(light.sum).to be < plain * 0.5
    expect(heavy.sum).to be > plain
    expect(mouse.uniq).to eq([0.5])
  end

  it "leans a slanted pen and shakes a shaky hand, which smoothing calms" do
    expect(described_class.fetch("slanted").movement(movement).tilt_x.uniq).to eq([50.0])
    shaky = described_class.fetch("shaky").movement(movement)
    rough = ->(samples) { samples.y.each_cons(3).sum { |a, b, c| (a - 2 * b + c).abs } }
    expect(rough[shaky]).to be > rough[movement] * 5
    expect(rough[S::Smoothing.smooth(shaky, 0.8)]).to be < rough[shaky] * 0.2
    expect {
      described_class.fetch("robot")
    }.to raise_error(described_class::Unknown, /light, heavy, shaky, slanted, mouse/)
  end
end
