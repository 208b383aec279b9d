# frozen_string_literal: true

# Outside reference: Semantic Versioning 2.0.0 says what a major, minor and patch change raises.
RSpec.describe Fobrel::Core::Curation::ReleaseNumber do
  def brush(id, name = "Brush #{id}", print = "p#{id}") = described_class::Brush.new(id, name, print)

  def after(*brushes, words: false) = described_class.new([brush(1), brush(2)], brushes, words:)

  it "tells gone, renamed and repainted for major, added for minor, words for a patch" do
    expect(after(brush(1)).level).to eq("major")
    expect(after(brush(1), brush(2, "Other")).level).to eq("major")
    expect(after(brush(1), brush(2, "Brush 2", "px")).level).to eq("major")
    expect(after(brush(1), brush(2), brush(3)).level).to eq("minor")
    expect(after(brush(2), brush(1), words: true).level).to eq("patch")
    expect(after(brush(1), brush(2)).level).to be_nil
    expect(after(brush(1), brush(3)).level).to eq("major")
  end

  it "raises the right part and sets those below it to nothing" do
    expect(after(brush(1)).next("1.4.9")).to eq("2.0.0")
    expect(after(brush(1), brush(2), brush(3)).next("1.4.9")).to eq("1.5.0")
    expect(after(brush(1), brush(2), words: true).next("1.4.9")).to eq("1.4.10")
    expect(after(brush(1)).next(nil)).to eq("1.0.0")
  end

  it "lets a number be raised, never lowered, and reads only whole ones" do
    added = after(brush(1), brush(2), brush(3))
    %w[1.5.0 1.5.1 2.0.0 10.0.0].each { |number| expect { added.check(number, "1.4.9") }.not_to raise_error }
    expect { added.check("1.4.10", "1.4.9") }.to raise_error(described_class::Refused, /below 1\.5\.0/)
    ["1.5", "v1.5.0", "1.05.0", "1.5.0-a", "", nil, "9" * 30].each { |bad|
      expect {
        added.check(bad, "1.4.9")
      }.to raise_error(described_class::Refused, /not written like 1\.0\.0/)
    }
  end

  it "drafts the notes" do
    changed = described_class.new(
      [brush(1), brush(2), brush(3)],
      [brush(1, "New"), brush(2, "Brush 2", "px"), brush(4)]
    )
    expect(changed.notes.lines.map(&:chomp)).to eq(
      [
        "Gone: Brush 3.",
        "Renamed: Brush 1 → New.",
        "Repainted: Brush 2.",
        "Added: Brush 4."
      ]
    )
    expect([after(brush(1), brush(2), words: true).notes, after(brush(1), brush(2)).notes]).to eq(["Words only.", ""])
  end
end

RSpec.describe Fobrel::Core::Curation::Preflight do
  def entry(preset, key: 1, **state)
    described_class::Entry.new(key:, preset:, hidden: false, locked: false, drafts_of: [], **state)
  end

  def found(*entries, assets: {}, canvas: [1920, 1080], licence: "MIT")
    described_class.new(entries, assets:, canvas:, licence:).findings
  end

  let(:good) {
    round_preset(about: {"licence" => "CC-BY-4.0", "author" => "Maren Oake", "notes" => ""}).with("name", "Fog")
  }

  it "finds nothing at what is in order" do
    expect(found(entry(good))).to eq([])
  end

  it "stops an empty bundle, one without a licence, and hidden brushes; names who has drafts" do
    expect(found.map { [_1.kind, _1.stops] }).to eq([["empty", true]])
    expect(found(entry(good), licence: "").first.sentence).to eq("The bundle has no licence. Choose one.")
    hidden = found(entry(good, hidden: true, locked: true, drafts_of: ["Tove"]))
    expect(hidden.map { [_1.kind, _1.stops] }).to eq([["hidden", true], ["locked", false], ["draft", false]])
    expect(hidden.last.sentence).to match(/Tove has changes on “Fog” that are not saved/)
  end

  it "points out stock in one sentence that stops nothing" do
    stock = Array.new(6) { |i|
      entry(
        good.with("name", "Stock #{i}").then { |one|
          Preset[one.to_h.merge(
            "id" => SecureRandom.uuid,
            "stroke" => {"spacing" => 0.1 + i / 10.0}
          )]
        },
        key: i,
        stock: true
      )
    }
    told = found(entry(good), *stock).find { _1.kind == "stock" }
    expect([told.stops, told.sentence]).to match([false, /“Stock 3” and 2 more are stock: received from elsewhere/])
    expect(found(entry(good)).map(&:kind)).not_to include("stock")
  end

  it "sees a brush that outgrows the canvas by its response, not by its number" do
    grows = Preset[good.to_h.merge("response" => [by_pressure("size", 0.2, 3)])]
    expect(found(entry(grows), canvas: [300, 100]).map(&:kind)).to eq(["size"])
    expect(found(entry(grows), canvas: [300, 121])).to eq([])
  end

  it "weighs parts and tips: oversize, weak, but not those with their own colours" do
    weak = Fobrel::Core::Tip::Cover[Numo::SFloat.new(30, 30).fill(0.5)].to_png
    broad = Vips::Image.black(2100, 20).pngsave_buffer
    tip = ->(bytes, colours) {
      Preset[good.to_h.merge(
        "tip" => {
          "form" => {"kind" => "picture", "frames" => [sha(bytes)], "colours" => colours},
          "size" => {"base" => 9}
        }
      )]
    }
    assets = [weak, broad].to_h { [sha(_1), _1] }
    expect(found(entry(tip[weak, "tint"]), assets:).map(&:kind)).to eq(["weak tip"])
    expect(found(entry(tip[weak, "own"]), assets:)).to eq([])
    expect(found(entry(tip[broad, "tint"]), assets:).first.sentence).to match(/2100 × 20 px/)
    grain = Preset[good.to_h.merge("grain" => {"asset" => "sha256:#{"0" * 64}"})]
    expect(found(entry(grain)).map { [_1.kind, _1.stops] }).to eq([["missing", true]])
  end
end
