# frozen_string_literal: true

require "spec_helper"

# One odd thing in a package or backup is put aside and told; the rest comes.
RSpec.describe Fobrel::Core::Package do
  let(:fog) { round_preset(size: 9) }

  def backup(**more)
    library = {
      "format" => "fobrel.library/1",
      "name" => "Storm",
      "categories" => [],
      "statuses" => [],
      "brushes" => {},
      "bundles" => [],
      "plans" => []
    }.merge(more.transform_keys(&:to_s))
    described_class::Backup.new(library:, histories: {fog.id => [{"number" => 1, "at" => "2026-11-01T10:00:00Z"}]})
  end

  def bundle(version: 1, sets: [], tags: [], backup: nil)
    described_class::Bundle.build(
      items: [described_class::Bundle::Item.new(preset: fog, version:)],
      assets: {},
      sets:,
      tags:,
      backup:,
      name: "Kit"
    )
  end

  def survey(bundle)
    described_class::Archive.open(
      StringIO.new(described_class::Writer.zip(bundle)),
      name: "x"
    ) { |files|
      described_class::Reader.survey(files, name: "x") {
        true
      }
    }
  end

  def set(name, query: nil) = described_class::Bundle::Group.new(name:, presets: query ? [] : [fog.id], query:)

  it "puts an odd set or tag aside and brings the rest" do
    found = survey(
      bundle(
        sets: [
          set("Good"),
          set("Empty search", query: " "),
          set("Endless", query: "fog " * 200),
          set("x" * 300)
],
        tags: [described_class::Bundle::Tag.new(name: " ", colour: "teal", shape: "leaf")]
      )
    )
    expect([found.items.size, found.sets.map(&:name), found.tags]).to eq([1, ["Good"], []])
    expect(found.troubles.map(&:kind).uniq).to eq(["aside"])
    expect(found.troubles.map(&:sentence)).to include(
      "The set “Empty search” is left out: it is not written as a set can be."
    )
  end

  it "carries whatever the search line takes, and whatever number saving can reach" do
    found = survey(bundle(version: 1_000_001, sets: [set("Long", query: "fog #{"a" * 480}")]))
    expect([found.troubles, found.sets.first.query.size, found.items.first.version]).to eq([[], 484, 1_000_001])
  end

  it "puts odd entries of a backup aside: a status, a category, a release" do
    release = ->(number, sum) {
      {"number" => number, "sha256" => sum * 64, "at" => "2026-11-01T10:00:00Z", "items" => [], "words" => {}}
    }
    bundles = [
      {
        "name" => "Kit",
        "brushes" => [],
        "releases" => [release["1.0.0", "a"], release["9" * 90 + ".0.0", "b"]]
      }
    ]
    found = survey(
      bundle(
        backup: backup(
          statuses: [
            {"name" => "", "colour" => "teal", "shape" => "leaf"},
            {"name" => "done", "colour" => "teal", "shape" => "leaf"}
],
          categories: [%w[a b c d e]],
          bundles:
        )
      )
    )
    expect(found.backup.library["statuses"].map { _1["name"] }).to eq(["done"])
    expect([found.backup.library["categories"], found.items.size]).to eq([[], 1])
    told = found.troubles.map(&:sentence).join(" ")
    expect(told).to match(/statuses 0 is left out of library.json/).and match(/releases 1 is left out/)
  end

  it "holds releases against each other: none twice, none before an earlier one" do
    package = described_class::Writer.zip(bundle)
    sum = Digest::SHA256.hexdigest(package)
    other = described_class::Writer.zip(bundle(version: 2))
    release = ->(number, bytes) {
      {
        "number" => number,
        "sha256" => Digest::SHA256.hexdigest(bytes),
        "at" => "2026-11-01T10:00:00Z",
        "items" => [],
        "words" => {}
      }
    }
    bundles = [
      {
        "name" => "Kit",
        "brushes" => [],
        "releases" => [release["2.0.0", package], release["2.1.0", package], release["1.0.0", other]]
      }
    ]
    whole = described_class::Backup.new(
      library: backup(bundles:).library,
      releases: {sum => described_class::Bundle::Asset.new(bytes: package, ext: "zip")}
    )
    expect(survey(bundle(backup: whole)).backup.library["bundles"][0]["releases"].map { _1["number"] }).to eq(["2.0.0"])
  end

  it "reads a package back before it is handed over" do
    made = bundle(sets: [set("Good")])
    io = StringIO.new(described_class::Writer.zip(made))
    expect { described_class::ReadBack.check(io, made) }.not_to raise_error
    expect {
      described_class::ReadBack.check(
        io,
        bundle(sets: [set("Other")])
      )
    }.to raise_error(described_class::ReadBack::Differs, /the sets.*Nothing was handed over/)
    bad = bundle(sets: [set("Empty search", query: " ")])
    expect {
      described_class::ReadBack.check(
        StringIO.new(described_class::Writer.zip(bad)),
        bad
      )
    }.to raise_error(described_class::ReadBack::Differs, /Empty search/)
    expect {
      described_class::ReadBack.check(
        StringIO.new(io.string[0, 300]),
        made
      )
    }.to raise_error(described_class::ReadBack::Differs)
  end

  it "says what is wrong with a library.json that is none, without saying it again" do
    preset = Fobrel::Core::Preset::Preset.build(
      "A",
      {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 9}}}
    )
    package = Fobrel::Core::Package
    said = [[1, {"a" => "b" * 500}], {"x" => 1}, {"format" => "other/#{"q" * 400}"}, "<b>", nil].map do |library|
      payload = {
        "bundle.json" => '{"presets":[]}',
        "presets/#{preset.id}.json" => JSON.generate(preset.to_h),
        "library.json" => JSON.generate(library)
      }
      zip = package::Writer.pack(package::Writer.bag(payload))
      package::Delivery.read([package::Delivery::File.new("b.zip", StringIO.new(zip))]).items.map(&:sentence)
    end
    expect(said.flatten.size).to eq(5)
    expect(said.flatten).to all(match(/\Ab.zip cannot be used: library\.json: [^{\[]{5,160}\. Nothing was kept\./))
    expect(said[0][0]).to match(/it must be an object, not a list/)
  end
end
