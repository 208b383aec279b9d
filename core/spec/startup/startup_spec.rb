# frozen_string_literal: true

RSpec.describe Fobrel::Core::Startup do
  around { |example| Dir.mktmpdir { |folder| (@seat = folder) && example.run } }

  let(:tip) { Fobrel::Core::Tip::Cover[[[1, 0], [0.5, 1]]].to_png }
  let(:assets) { {sha(tip) => Fobrel::Core::Package::Bundle::Asset.new(bytes: tip, ext: "png")} }
  let(:rope) {
    Preset.build("Rope", {"mark" => {"tip" => {"kind" => "picture", "frames" => [sha(tip)]}, "size" => {"base" => 20}}})
  }
  let(:fog) { round_preset }

  def hand_out(*presets) = described_class::Plan.new(presets, assets).hand_out(@seat)

  def start = described_class::Start.run(@seat)

  it "loads what was handed out, in order" do
    hand_out(rope, fog)
    report = start
    expect(
      report[:loaded].map {
        _1.values_at(:name, :fingerprint, :ok)
      }
    ).to eq([["Rope", rope.fingerprint, true], ["Round", fog.fingerprint, true]])
    expect(report.values_at(:failed, :stray)).to eq([0, []])
    expect(JSON.parse(File.read("#{@seat}/startup/start.json"))["files"].keys.size).to eq(3)
  end

  it "is swapped in one step and leaves nothing of the old plan" do
    hand_out(rope, fog)
    watcher = Thread.new do
      seen = []
      until Thread.current[:enough]
        seen << JSON.parse(File.read("#{@seat}/startup/start.json"))["presets"].size
      end
      seen.uniq
    end
    20.times { |i| i.odd? ? hand_out(rope, fog) : hand_out(fog) }
    watcher[:enough] = true
    expect([1, 2]).to include(*watcher.value)
    expect(Dir.children(@seat).size).to eq(2)
  end

  it "says which file was changed, which is gone and which does not belong" do
    hand_out(rope, fog)
    File.write("#{@seat}/startup/presets/#{fog.id}.json", "{}")
    File.delete(*Dir.glob("#{@seat}/startup/parts/*"))
    File.write("#{@seat}/startup/presets/mine.json", "{}")
    report = start
    expect(
      report[:loaded].map {
        _1[:problem]
      }
    ).to match([/parts.* is not in the folder/, /was changed after it was handed out/])
    expect(report.values_at(:failed, :stray)).to eq([2, ["presets/mine.json"]])
  end

  it "has nothing to start from before anything is handed out" do
    expect { start }.to raise_error(Fobrel::Core::Problem, /Hand a start plan out/)
  end

  it "hands out nothing when a picture is missing" do
    expect { described_class::Plan.new([rope], {}) }.to raise_error(Fobrel::Core::Preset::MissingNeed)
    expect(Dir.children(@seat)).to be_empty
  end
end
