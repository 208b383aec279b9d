# frozen_string_literal: true

# A backup from outside is as hostile as any package: what is sound of it is kept, the rest is told.
RSpec.describe Fobrel::Core::Package::Backup do
  def package = Fobrel::Core::Package

  let(:bar) { grey_png(Array.new(24) { |y| Array.new(24) { |x| x.between?(2, 5) ? 0 : 255 } }) }
  let(:fog) { round_preset }
  let(:rope) {
    Preset[fog.to_h.merge("tip" => {"form" => {"kind" => "picture", "frames" => [sha(bar)]}, "size" => {"base" => 20}})]
  }
  let(:release) { packed }
  let(:sum) { Digest::SHA256.hexdigest(release) }
  let(:at) { "2026-03-01T10:00:00.000000Z" }
  let(:library) do
    {
      "format" => "fobrel.library/1",
      "name" => "Storm",
      "categories" => [["Ink"], %w[Ink Dry]],
      "statuses" => [],
      "brushes" => {fog.id => {"category" => %w[Ink Dry], "baseline" => 1}},
      "plans" => [{"desk" => "Desk", "brushes" => [fog.id]}],
      "bundles" => [
        {
          "name" => "Kit",
          "brushes" => [fog.id],
          "releases" => [{"number" => "1.0.0", "sha256" => sum, "at" => at, "items" => [], "words" => {}}]
        }
      ]
    }
  end
  let(:history) { [{"number" => 1, "at" => at, "by" => "Maren", "preset" => rope.to_h}, {"number" => 2, "at" => at}] }
  let(:backup) {
    described_class.new(
      library:,
      histories: {fog.id => history},
      releases: {sum => package::Bundle::Asset.new(bytes: release, ext: "zip")}
    )
  }
  let(:bytes) { packed(backup) }

  def packed(backup = nil)
    package::Writer.zip(
      package::Bundle.build(
        items: [package::Bundle::Item.new(preset: fog, version: 2)],
        assets: {sha(bar) => package::Bundle::Asset.new(bytes: bar, ext: "png")},
        backup:
      )
    )
  end

  # The backup with its files changed and summed anew.
  def changed
    payload = package::Archive.read(bytes).select { |path, _|
      path.start_with?("data/")
    }.transform_keys { _1.delete_prefix("data/") }
    yield payload
    package::Writer.pack(package::Writer.bag(payload))
  end

  def survey(zip)
    kept = {}
    reading = package::Archive.open(StringIO.new(zip)) { |files|
      package::Reader.survey(files) { |reference, asset|
        kept[reference] = asset.ext
      }
    }
    [reading, kept]
  end

  def edit(payload, path) = payload[path] = JSON.generate(JSON.parse(payload[path]).tap { yield _1 })

  it "carries earlier versions with their pictures, releases as they were, and comes back the same" do
    reading, kept = survey(bytes)
    expect([reading.backup.library, reading.backup.histories]).to eq([library, {fog.id => history}])
    expect(kept).to eq({sha(bar) => "png", "sha256:#{sum}" => "zip"})
    expect(package::Writer.zip(package::Reader.read(bytes))).to eq(bytes)
  end

  it "loses nothing on its way through a folder" do
    Dir.mktmpdir do |folder|
      package::Folder.write(package::Reader.read(bytes), folder)
      expect(package::Writer.zip(package::Folder.read(folder))).to eq(bytes)
    end
  end

  it "is a plain package to whoever asks only for brushes" do
    found = package::Delivery.read([package::Delivery::File.new("b.zip", StringIO.new(bytes))])
    expect(
      found.items.map {
        [
          _1.kind,
          _1.preset.fingerprint,
          _1.past
        ]
      }
    ).to eq([["preset", fog.fingerprint, {"facts" => library["brushes"][fog.id], "versions" => history}]])
    expect([found.library, found.assets.keys]).to eq([library.except("brushes"), [sha(bar)]])
  end

  {
    "a version of another brush" => [
      /Version 1 of “Round” is left out. It belongs to another brush/,
      ->(p, s) {
        s.edit(
          p,
          "versions/#{s.fog.id}.json"
        ) {
          _1[0]["preset"]["id"] =
            SecureRandom.uuid
        }
      }
],
    "a version that is no preset" => [
      /Version 1 of “Round” is left out. .*must be at most/,
      ->(p, s) {
        s.edit(
          p,
          "versions/#{s.fog.id}.json"
        ) {
          _1[0]["preset"]["tip"]["size"]["base"] = 1e9
        }
      }
],
    "a version without settings" => [
      /Version 1 of “Round” is left out. Its settings are not in this backup/,
      ->(p, s) {
        s.edit(
          p, "versions/#{s.fog.id}.json"
        ) {
          _1[0].delete("preset")
        }
      }
],
    "a version without its picture" => [
      /Version 1: “Round” needs the picture/,
      ->(p, _) {
        p.delete_if { |path, _|
          path.start_with?("assets/")
        }
      }
],
    "a release that is missing" => [
      /The release Kit 1\.0\.0 is not in this backup/,
      ->(p, _) {
        p.delete_if { |path, _|
          path.start_with?(
            "releases/"
          )
        }
      }
],
    "a release that is another file" => [
      /The release Kit 1\.0\.0 is left out. It is another file/,
      ->(p, _) {
        p.find { |path, _|
          path.start_with?("releases/")
        }.last.setbyte(40, 1)
      }
],
    "a release that is a backup in a backup" => [
      /The release Kit 1\.0\.0 is left out. It is not a release/,
      ->(p, s) {
        s.instead(p, s.bytes)
      }
],
    "a release that is no package" => [
      /The release Kit 1\.0\.0 is left out. .*no bagit\.txt/,
      ->(p, s) {
        s.instead(p, s.package::Writer.pack({"a" => "b"}))
      }
    ]
  }.each do |what, (sentence, change)|
    it "leaves out #{what}, says so, and keeps the rest" do
      reading, kept = survey(changed { change.call(_1, self) })
      expect(reading.troubles.map(&:sentence)).to match([sentence])
      expect(
        [
          reading.items.size,
          reading.backup.histories[fog.id].size,
          reading.backup.library["bundles"][0]["releases"].size
        ]
      ).to eq(
        [
          1,
          what.include?("version") ? 1 : 2,
          what.include?("release") ? 0 : 1
        ]
      )
      expect(kept.values.count("zip")).to eq(reading.backup.library["bundles"][0]["releases"].size)
    end
  end

  def instead(payload, other)
    payload.delete_if { |path, _| path.start_with?("releases/") }
    payload["releases/#{Digest::SHA256.hexdigest(other)}.fobrel.zip"] = other
    edit(payload, "library.json") { _1["bundles"][0]["releases"][0]["sha256"] = Digest::SHA256.hexdigest(other) }
  end

  {
    "a branch four deep" => ->(l) { l.merge("categories" => [%w[a b c d], %w[Inks]]) },
    "a branch with a name of blanks in it" => ->(l) {
      l.merge("categories" => [["a", " ", "c"], %w[Inks]])
    },
    "a bundle that is a text" => ->(l) { l.merge("bundles" => ["x", *l["bundles"]]) },
    "a release numbered 1" => ->(l) {
      l.merge("bundles" => [l["bundles"][0].merge("releases" => [{"number" => "1"}, *l["bundles"][0]["releases"]])])
    }
  }.each do |what, change|
    it "leaves out #{what}, says so, and keeps the rest" do
      reading, = survey(changed { |payload| payload["library.json"] = JSON.generate(change.call(library)) })
      expect(reading.troubles.map(&:sentence)).to match([/is left out of library\.json/])
      expect(
        [
          reading.items.size,
          reading.backup.library["bundles"].size,
          reading.backup.library["bundles"][0]["releases"].size
        ]
      ).to eq([1, 1, 1])
      expect(reading.backup.library["categories"].last(1)).to eq([%w[Inks]]) if what.include?("branch")
    end
  end

  {
    "is a list" => ->(_) { [] },
    "is of a later version" => ->(l) { l.merge("format" => "fobrel.library/2") },
    "has no bundles" => ->(l) {
      l.except("bundles")
    },
    "has a canvas of nothing" => ->(l) {
      l.merge("canvas" => {"width" => 0, "height" => 0})
    }
  }.each do |what, change|
    it "refuses the whole where library.json #{what}" do
      expect {
        survey(
          changed { |payload|
            payload["library.json"] =
              JSON.generate(change.call(library))
          }
        )
      }.to raise_error(package::Reader::Invalid, /library\.json: .*Nothing was kept/)
    end
  end

  it "refuses a NUL in a note, but not a note that only looks like one" do
    note = ->(text) {
      survey(
        changed { |payload|
          edit(payload, "versions/#{fog.id}.json") {
            _1[0]["note"] = text
          }
        }
      ).first.backup.histories[fog.id][0]["note"]
    }
    expect { note["a\0b"] }.to raise_error(package::Reader::Invalid, /holds a NUL/)
    expect(note["a\\u0000b"]).to eq("a\\u0000b")
  end

  it "refuses the whole where a file of it is no JSON, or nested without end" do
    ["{", "#{"[" * 200}#{"]" * 200}"].each do |text|
      expect {
        survey(
          changed { |payload|
            payload["versions/#{fog.id}.json"] = text
          }
        )
      }.to raise_error(package::Reader::Invalid, /is not JSON/)
    end
  end
end
