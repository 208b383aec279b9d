# frozen_string_literal: true

require "support/api"

RSpec.describe "the shelf of parts", :api do
  before { sign_in("maren") }

  let(:library) { "/api/libraries/#{@first.id}" }
  let(:person) { Studio::M::Person.find_by!(login: "maren") }

  def shelf(**asked) = call(:get, "#{library}/shelf?#{URI.encode_www_form(asked)}")["parts"]

  def change(sum, **wish) = call(:put, "#{library}/parts/#{sum}", wish)

  def disc(tone = 0, radius = 20)
    Vips::Image.black(60, 60).invert.draw_circle(
      [tone],
      30,
      30,
      radius,
      fill: true
    ).copy(interpretation: :b_w).pngsave_buffer
  end

  def part(name, bytes = disc, kind: "tip", **more)
    sum = Studio::M::Asset.keep(bytes, "png")
    @first.parts.create!(name:, kind:, sha256: sum, **more)
    sum
  end

  # Brushes that have one picture for a tip.
  def brushes(sum, count)
    Array.new(count) do |index|
      tip = {"kind" => "picture", "frames" => [Fobrel::Core::Sum.reference(sum)]}
      value = Fobrel::Core::Preset::FromTip.build("Twig #{index + 1}", tip, kind: "stamp")
      Fobrel::Actions::CreatePreset.call(library: @first, value:, person:)
    end
  end

  it "has all pictures that brushes need and all that lie on a shelf, with figures and uses" do
    sum = part("Pebble")
    near = part("Pebble, again", disc(10))
    made = brushes(sum, 2)
    row = shelf.find { _1["sum"] == sum }
    expect(row.values_at("name", "kind", "width", "named")).to eq(["Pebble", "tip", 60, true])
    expect(row["brushes"].map { _1["id"] }).to eq(made.map(&:id))
    expect(row["cover"]).to be_within(0.02).of(Math::PI * 400 / 3600)
    expect(row["like"]).to include(near)
    expect(shelf.count { !_1["named"] }).to be >= 2
    expect(Studio::M::Asset.find(sum).facts["memory"]).to eq(4800)
  end

  it "keeps a person's own shelf from others, and shows guests what the library has" do
    mine = part("Mine", disc(0, 9), person:)
    ours = part("Ours", disc(0, 12))
    expect(change(ours, own: true)["error"]).to match(/library's shelf.*It stays there/)
    sign_in("ilse")
    sums = shelf.map { _1["sum"] }
    expect([sums.include?(mine), sums.include?(ours)]).to eq([false, true])
    call(:get, "#{library}/parts/#{mine}.png")
    expect(status).to eq(404)
    change(ours, name: "Theirs")
    expect(status).to eq(403)
    sign_in("tove")
    change(mine, name: "Theirs")
    expect(status).to eq(404)
  end

  it "names and tags, throws away into the Attic and brings back; what is needed stays" do
    sum = part("Pebble")
    change(sum, name: "Skerry", tags: [" wet ", "wet", ""])
    expect(shelf.find { _1["sum"] == sum }.values_at("name", "tags")).to eq(["Skerry", ["wet"]])
    entry = change(sum, hidden: true)["entry"]
    expect([shelf.any? { _1["sum"] == sum }, shelf(hidden: true).map { _1["name"] }]).to eq([false, ["Skerry"]])
    call(:post, "/api/ledger/#{entry["id"]}/undo")
    expect(shelf.any? { _1["sum"] == sum }).to be(true)
    brushes(sum, 1)
    expect(change(sum, hidden: true)["error"]).to match(/1 brush needs this part. It stays/)
    used = shelf.find { !_1["named"] }["sum"]
    change(used, name: "Found")
    expect(shelf.find { _1["sum"] == used }.values_at("name", "named")).to eq(["Found", true])
  end

  it "exchanges a part in four brushes as drafts, and takes it back" do
    old = part("Old")
    fresh = part("Fresh", disc(0, 28))
    made = brushes(old, 4)
    entry = call(:post, "#{library}/parts/exchange", {from: old, to: fresh})["entry"]
    expect(entry["summary"]).to eq("A part exchanged in 4 brushes, as drafts")
    tips = Studio::M::Draft.where(preset: made).map { _1.document["mark"]["tip"]["frames"] }
    expect(tips).to eq([["sha256:#{fresh}"]] * 4)
    call(:post, "/api/ledger/#{entry["id"]}/undo")
    expect(Studio::M::Draft.where(preset: made).count).to eq(0)
    expect(call(:post, "#{library}/parts/exchange", {from: old, to: "0" * 64})["error"]).to match(/not yours to see/)
    expect(call(:post, "#{library}/parts/exchange", {from: old, to: old})["error"]).to match(/same part/)
  end

  it "hands parts over as plain files" do
    sum = part("Skerry stone")
    zip = call(:post, "#{library}/parts/kit", {sums: [sum]})
    Fobrel::Core::Package::Archive.open(StringIO.new(zip), name: "parts.zip") do |files|
      expect(files.keys).to eq(
        [
          "skerry-stone-on-white.png",
          "skerry-stone.png"
        ]
      ).or eq(["Skerry stone-on-white.png", "Skerry stone.png"])
    end
  end

  it "offers what lies on a shelf where a tip is chosen, and lets a draft use it" do
    sum = part("Pebble")
    tips = call(:get, "#{library}/parts")["tips"]
    expect(tips.last.values_at("brushes", "count")).to eq([["Pebble"], 0])
    preset = @first.presets.first
    document = call(:get, "/api/presets/#{preset.id}")["document"]
    kept = call(
      :put,
      "/api/presets/#{preset.id}/draft",
      {document: document.merge("mark" => document["mark"].merge("tip" => tips.last["tip"]))}
    )
    expect([status, kept["kept"].nil?, tips.last["tip"]["frames"]]).to eq([200, false, ["sha256:#{sum}"]])
  end
end
