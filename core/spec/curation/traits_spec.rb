# frozen_string_literal: true

RSpec.describe Fobrel::Core::Curation::Traits do
  def traits(**groups) = described_class.of(round_preset(**groups))

  def driven(drives, by) = {"drives" => drives, "by" => by, "from" => 0, "to" => 1, "curve" => [[0, 0], [1, 1]]}

  {
    {hardness: 1} => ["hard"],
    {hardness: 0.5} => ["half soft"],
    {hardness: 0} => ["soft"],
    {size: 500} => ["hard", "huge"],
    {tip: {"hard_pixels" => true}} => ["hard", "hard pixels"],
    {paint: {"eraser" => true}} => ["hard", "erases"],
    {paint: {"mix" => 0.2}} => ["hard", "mixes"],
    {paint: {"blend" => "multiply"}} => ["hard", "multiply"],
    {paint: {"colour" => {"mode" => "fixed", "value" => "#aabbcc"}}} => ["hard", "fixed colour"],
    {extras: {"behind" => true}} => ["hard", "paints behind"],
    {stroke: {"smoothing" => 0.4, "scatter" => {"across" => 1}}} => ["hard", "scatter", "smoothed"]
  }.each do |groups, expected|
    it("calls #{groups.inspect} #{expected.join(", ")}") { expect(traits(**groups)).to eq(expected) }
  end

  it "names what the brush answers to, once each, and its jitter and shifts" do
    responses = [
      driven("size", "tilt direction"),
      driven("hue", "pressure"),
      driven("angle", "random"),
      driven("opacity", "pressure")
    ]
    expect(traits(response: responses)).to eq(["hard", "answers to pressure, tilt", "jitter", "shifts hue"])
  end

  it "tells methods, reels and own colours" do
    frames = %w[a b c].map { sha(_1) }
    reel = Preset.build(
      "Reel",
      {
        "method" => "garland",
        "tip" => {
          "form" => {"kind" => "picture", "frames" => frames, "turn" => "speed", "colours" => "own"},
          "size" => {"base" => 9}
        }
      }
    )
    expect(described_class.of(reel)).to eq(["reel of 3", "garland", "own colours", "answers to speed"])
    smear = ->(own_paint) { Preset[round_preset(paint: {"own_paint" => own_paint}).to_h.merge("method" => "smear")] }
    expect([0, 0.5].map { described_class.of(smear[_1])[1] }).to eq(["moves paint only", "mixes"])
    shape = Preset.build(
      "Sail",
      {"tip" => {"form" => {"kind" => "shape", "asset" => frames.first}, "size" => {"base" => 9}}}
    )
    expect(described_class.of(shape)).to eq(["shape tip"])
  end

  it "counts a list as each of its members, and finds a member in a list" do
    expect(
      ["answers to pressure, tilt", "reel of 3", "grain", "shifts hue"].flat_map {
        described_class.counted(_1)
      }
    ).to eq(["answers to pressure", "answers to tilt", "reel", "grain", "shifts hue"])
    meant = described_class.meant("answers to tilt")
    expect(meant).to include("answers to tilt", "answers to pressure, tilt").and all(match(/\btilt\b/))
    expect(meant.size).to eq(2**(described_class::SENSED.size - 1))
    expect(described_class.meant("shifts hue")).to include("shifts lightness, hue")
    expect(["answers to", "answers to nothing", "grain"].map { described_class.meant(_1) }).to all(be_empty)
  end
end
