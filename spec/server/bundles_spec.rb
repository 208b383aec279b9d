# frozen_string_literal: true

require "support/api"
require "bagit"
require "open3"

RSpec.describe "bundles and releases", :api do
  before { sign_in("maren") }

  let(:library) { "/api/libraries/#{@first.id}" }
  let(:ids) { @first.presets.in_order.ids }
  let(:bundle) { call(:post, "#{library}/bundles", {name: "Storm kit", preset_ids: ids.first(3)}) }
  let(:path) { "/api/bundles/#{bundle["id"]}" }

  def change(**with) = call(:put, path, with)

  def preflight(query = "") = call(:get, "#{path}/preflight#{query}")

  def release(**with) = call(:post, "#{path}/releases", with)

  def resize(id, size)
    preset = Studio::M::Preset.find(id)
    value = preset.current_version.value
    Fobrel::Actions::AddVersion.call(
      preset:,
      value: value.with("tip", value["tip"].merge("size" => value["tip", "size"].merge("base" => size))),
      person: Studio::M::Person.first
    )
  end

  it "numbers releases by what changed, and drafts the notes" do
    change(licence: "CC-BY-4.0")
    numbers = [release]
    change(description: "For act two.")
    numbers << release
    change(preset_ids: ids.first(4))
    expect(preflight.values_at("level", "number", "notes")).to match(["minor", "1.1.0", /\AAdded: /])
    numbers << release(notes: "One more.")
    resize(ids[0], 77)
    expect(preflight.values_at("level", "number", "notes")).to match(["major", "2.0.0", /\ARepainted: /])
    numbers << release
    change(preset_ids: ids[1, 3])
    expect(release(number: "2.1.0")["error"]).to match(/2\.1\.0 is below 3\.0\.0/)
    expect(release(number: "x")["error"]).to match(/not written like 1\.0\.0/)
    numbers << release(number: "4.2.0")
    expect(release["error"]).to match(/No changes since release 4\.2\.0/)
    list = numbers.map { _1["number"] }
    expect(list).to eq(%w[1.0.0 1.0.1 1.1.0 2.0.0 4.2.0])
    expect(outside({numbers: list}).values_at("rising", "levels")).to eq([true, %w[patch minor major major]])
  end

  it "freezes what is released: three brushes, their needs, nothing else, the same bytes for ever" do
    change(licence: "CC-BY-4.0", sections: {ids[0] => "Lines"}, cover: ids[1])
    made = release
    bytes = call(:get, "/api/releases/#{made["id"]}/package")
    expect(Digest::SHA256.hexdigest(bytes)).to eq(made["sha256"])
    listed = call(:get, "#{library}/exports")["exports"].first
    expect(
      [
        listed["release"],
        listed["sha256"]
      ]
    ).to eq([{"bundle" => "Storm kit", "number" => "1.0.0"}, made["sha256"]])
    expect(call(:post, "/api/exports/#{listed["id"]}/repeat", {})["error"]).to match(/went out as release 1\.0\.0/)
    read = Fobrel::Core::Package::Reader.read(bytes)
    needs = @first.presets.find(ids.first(3)).flat_map { _1.current_version.value.needs }.uniq
    expect(
      [
        read.presets.size,
        read.assets.keys.sort,
        read.version,
        read.licence,
        read.sets.map(&:name)
      ]
    ).to eq([3, needs.sort, "1.0.0", "CC-BY-4.0", ["Lines"]])
    resize(ids[0], 50)
    expect(call(:get, "/api/releases/#{made["id"]}/package")).to eq(bytes)
    Dir.mktmpdir do |folder|
      file = File.join(folder, "kit.zip")
      File.binwrite(file, bytes)
      expect(Open3.capture2e("unzip", "-tq", file).last).to be_success
      Open3.capture2e("unzip", "-q", file, "-d", "#{folder}/bag")
      expect(BagIt::Bag.new("#{folder}/bag")).to be_valid
      documents = Dir.glob("#{folder}/bag/data/presets/*.json").map { JSON.parse(File.read(_1)) }
      expect(outside({presets: documents})["presets"]).to eq([[], [], []])
    end
  end

  it "finds in the preflight what stops a release and what wants to be looked at" do
    expect(preflight["findings"].first.values_at("kind", "stops")).to eq(["licence", true])
    expect(release["error"]).to match(/cannot be released yet: The bundle has no licence.*Nothing was released/)
    change(licence: "My own")
    expect(preflight["findings"].first["sentence"]).to match(/not an SPDX licence identifier/)
    change(licence: "MIT", preset_ids: ids.first(4))
    sign_in("tove")
    document = call(:get, "/api/presets/#{ids[0]}")["document"]
    call(
      :put,
      "/api/presets/#{ids[0]}/draft",
      {document: document.merge("about" => document["about"].merge("licence" => ""))}
    )
    sign_in("maren")
    call(:put, "/api/presets/#{ids[1]}/lock", {locked: true})
    call(:post, "#{library}/hidings", {preset_ids: [ids[2]]})
    resize(ids[3], 900)
    expect(call(:put, "#{library}/canvas", {width: 0, height: 600})["error"]).to match(/Canvas width must be/)
    call(:put, "#{library}/canvas", {width: 800, height: 600})
    found = preflight["findings"].map { _1.values_at("kind", "key", "stops") }
    expect(found).to include(
      ["hidden", ids[2], true],
      ["draft", ids[0], false],
      ["locked", ids[1], false],
      ["size", ids[3], false]
    )
    expect(found.map(&:last)).to eq(found.map(&:last).sort_by { _1 ? 0 : 1 })
    # The brush that was resized is no stock any more.
    stock = preflight["findings"].find { _1["kind"] == "stock" }["sentence"]
    names = @first.presets.find(ids.first(4)).index_by(&:id)
    expect([ids[0], ids[3]].map { |id| stock.include?("“#{names[id].name}”") }).to eq([true, false])
  end

  it "names clashes, duplicates, weak tips and missing needs" do
    weak = Fobrel::Core::Tip::Cover[Numo::SFloat.new(40, 40).fill(0.6)].to_png
    entry = lambda do |name, settings, key|
      preset = Fobrel::Core::Preset::Preset.build(
        name,
        {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 9}}}.merge(settings)
      )
      Fobrel::Core::Curation::Preflight::Entry.new(key:, preset:, hidden: false, locked: false, drafts_of: [])
    end
    tip = ->(sum) {
      {"tip" => {"form" => {"kind" => "picture", "frames" => ["sha256:#{sum}"]}, "size" => {"base" => 9}}}
    }
    sum = Digest::SHA256.hexdigest(weak)
    entries = [
      entry["Fog", {}, 1],
      entry["fog", {}, 2],
      entry["Weak", tip[sum], 3],
      entry["Lost", tip["e" * 64], 4],
      entry["Brush 3", {"about" => {"licence" => "Mine", "author" => "A"}, "stroke" => {"spacing" => 3}}, 5]
    ]
    found = Fobrel::Core::Curation::Preflight.new(
      entries,
      assets: {"sha256:#{sum}" => weak},
      canvas: [100, 100],
      licence: "MIT"
    ).findings
    expect(
      found.map {
        [
          _1.kind,
          _1.key,
          _1.stops
        ]
      }
    ).to include(
      ["clash", 2, true],
      ["duplicate", 2, false],
      ["weak tip", 3, false],
      ["missing", 4, true],
      ["unnamed", 5, false],
      ["licence", 5, false],
      ["licence", 1, false]
    )
    expect(found.find { _1.kind == "missing" }.sentence).to match(/“Lost” needs the picture eeeeeeeeeeee…/)
  end

  it "compares releases, withdraws one with a reason, and keeps it for download" do
    change(licence: "MIT")
    one = release
    resize(ids[0], 66)
    change(preset_ids: ids[0, 2])
    two = release
    rows = call(:get, "#{path}/comparison?from=#{one["id"]}&to=#{two["id"]}")["rows"]
    expect(rows.map { [_1["before"].nil?, _1["after"].nil?] }).to match_array([[false, false], [false, true]])
    expect(call(:put, "/api/releases/#{two["id"]}/withdraw", {reason: " "})["error"]).to match(/Say why/)
    call(:put, "/api/releases/#{two["id"]}/withdraw", {reason: "Too large on tablets"})
    listed = call(:get, "#{library}/bundles")["bundles"].first["releases"]
    expect(
      listed.map {
        [_1["number"], _1["withdrawn"]&.fetch("reason")]
      }
    ).to eq([["2.0.0", "Too large on tablets"], ["1.0.0", nil]])
    expect(call(:get, "/api/releases/#{two["id"]}/package")).to start_with("PK")
    # A withdrawn number is never given again.
    expect(preflight["number"]).to eq("3.0.0")
    call(:delete, path)
    expect(status).to eq(422)
    sign_in("tove")
    expect(release && status).to eq(403)
    expect(call(:put, "/api/releases/#{one["id"]}/withdraw", {reason: "x"}) && status).to eq(403)
  end

  it "knows the licences of SPDX, as the npm registry's list has them" do
    expect(outside({licences: ["MIT", "CC-BY-4.0", "Mine"]})["licences"]).to eq([true, true, false])
    # A few that carry a maker's name are left out of ours.
    all = outside({})["all"]
    expect(Fobrel::Core::Curation::Preflight::SPDX.to_a - all).to eq([])
    expect((all - Fobrel::Core::Curation::Preflight::SPDX.to_a).size).to be <= 5
  end
end
