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

  it "names and tags, deletes and restores; what is needed stays" do
    sum = part("Pebble")
    change(sum, name: "Skerry", tags: [" wet ", "wet", ""])
    expect(shelf.find { _1["sum"] == sum }.values_at("name", "tags")).to eq(["Skerry", ["wet"]])
    entry = change(sum, hidden: true)["entry"]
    expect([shelf.any? { _1["sum"] == sum }, shelf(hidden: true).map { _1["name"] }]).to eq([false, ["Skerry"]])
    call(:post, "/api/history/#{entry["id"]}/undo")
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
    tips = Studio::M::Draft.where(preset: made).map { _1.document["tip"]["form"]["frames"] }
    expect(tips).to eq([["sha256:#{fresh}"]] * 4)
    call(:post, "/api/history/#{entry["id"]}/undo")
    expect(Studio::M::Draft.where(preset: made).count).to eq(0)
    expect(call(:post, "#{library}/parts/exchange", {from: old, to: "0" * 64})["error"]).to match(/doesn’t exist/)
    expect(call(:post, "#{library}/parts/exchange", {from: old, to: old})["error"]).to match(/same part/)
  end

  describe "preview pictures" do
    let(:preset) { @first.presets.shown.first }
    let(:document) { preset.current_version.document }

    def pictured(sum) = document.merge("about" => (document["about"] || {}).merge("picture" => "sha256:#{sum}"))

    def tune(sum) = call(:put, "/api/presets/#{preset.id}/draft", {document: pictured(sum)})

    def save
      kept = call(:get, "/api/presets/#{preset.id}")
      call(
        :post, "/api/presets/#{preset.id}/versions", {kept: kept["kept"], base: preset.reload.current_version.number}
      )
    end

    it "are a square of a picture or a symbol, kept as a draft, then with the version, for all to see" do
      sum = call(:post, "#{library}/previews?left=0.1&top=0.1&side=0.5&file=disc.png", disc)["sum"]
      expect(status).to eq(201)
      row = shelf.find { |part| part["sum"] == sum }
      expect(row.values_at("name", "kind", "own", "width")).to eq(["disc.png", "picture", true, 256])
      tune(sum)
      expect([status, preset.reload.picture]).to eq([200, nil])
      print = preset.fingerprint
      save
      expect(preset.reload.values_at(:picture, :fingerprint)).to eq([sum, print])
      expect(call(:get, "/api/presets/#{preset.id}")["preset"]["picture"]).to eq(sum)
      expect(change(sum, hidden: true)["error"]).to match(/1 brush needs this part/)
      sign_in("ilse")
      expect(call(:get, "#{library}/parts/#{sum}.png")).to start_with("\x89PNG".b)
    end

    it "of a symbol are kept once, and the next version may be without" do
      wish = {symbol: "nib", colour: "#aa3311"}
      sums = Array.new(2) { call(:post, "#{library}/previews/symbol", wish)["sum"] }
      expect([sums.uniq.size, @first.parts.where(kind: "picture").count]).to eq([1, 1])
      tune(sums.first)
      save
      call(:put, "/api/presets/#{preset.id}/draft", {document:})
      save
      expect(preset.reload.picture).to be_nil
    end

    it "of others, of nothing and of what is not a picture are refused" do
      call(:post, "#{library}/previews", "no picture")
      expect(status).to eq(422)
      call(:post, "#{library}/previews?left=0.5", disc)
      expect(status).to eq(422)
      call(:get, "/api/symbols/nothing.png")
      expect(status).to eq(404)
      sum = call(:post, "#{library}/previews/symbol", {symbol: "leaf", colour: "#aa3311"})["sum"]
      sign_in("tove")
      tune(sum)
      expect(status).to eq(422)
      sign_in("ilse")
      call(:post, "#{library}/previews", disc)
      expect(status).to eq(403)
    end

    it "stand on proof sheets and lie in start folders" do
      sum = call(:post, "#{library}/previews/symbol", {symbol: "chalk", colour: "#223344"})["sum"]
      tune(sum)
      save
      plain = Fobrel::Proofs::Sheet.new([preset.reload.tap { _1.picture = nil }], title: "One").pdf
      sheet = Fobrel::Proofs::Sheet.new([preset.reload], title: "One").pdf
      images = ->(pdf) { pdf.scan("/Subtype /Image").size }
      expect(images[sheet]).to be > images[plain]
      value = preset.current_version.value
      desk = @first.desks.create!(name: "Desk", folder: "desk-p")
      desk.put_in_order([preset.id])
      plan = Fobrel::Actions::SendToDesk.call(desk:, person: Studio::M::Person.find_by!(login: "maren"))
      expect(plan.document["files"]["parts/#{sum}.png"]["sum"]).to eq(sum)
      expect(Studio::M::DeskPlan.bytes(sum)).to eq(Studio::M::Asset::Bytes.fetch(sum))
      expect(value.needs).to include("sha256:#{sum}")
    end
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
      {document: document.merge("tip" => document["tip"].merge("form" => tips.last["tip"]))}
    )
    expect([status, kept["kept"].nil?, tips.last["tip"]["frames"]]).to eq([200, false, ["sha256:#{sum}"]])
  end

  it "lists the tips and grains that brushes paint with, each once with its brushes, and tells one from the other" do
    sum = Studio::M::Asset.keep(disc, "png")
    reference = Fobrel::Core::Sum.reference(sum)
    first, second = brushes(sum, 2)
    value = second.current_version.value
    grained = value.with("grain", {"asset" => reference}).with(
      "tip",
      {"form" => {"kind" => "round"}, "size" => {"base" => 20}}
    )
    Fobrel::Actions::AddVersion.call(preset: second, value: grained, person:)
    found = call(:get, "#{library}/parts")
    tip = found["tips"].find { |one| one["tip"]["frames"] == [reference] }
    expect(tip.values_at("brushes", "count")).to eq([[first.name], 1])
    expect(found["tips"].map { |one| one["tip"]["kind"] }).not_to include("round")
    expect(
      found["grains"].map { |one|
        one.values_at("asset", "brushes", "count")
      }
    ).to eq([[reference, [second.name], 1]])
    Fobrel::Actions::HidePresets.call(library: @first, person:, ids: [first.id])
    expect(shelf.find { |one| one["sum"] == sum }["kind"]).to eq("grain")
    change(sum, name: "Net")
    expect(@first.parts.find_by!(sha256: sum).kind).to eq("grain")
  end
end
