# frozen_string_literal: true

require "bagit"

RSpec.describe Fobrel::Core::Package do
  package = described_class
  let(:tip) { Fobrel::Core::Tip::Cover[[[1, 0.5], [0, 1]]].to_png }
  let(:spare) { Fobrel::Core::Tip::Cover[[[1]]].to_png }
  let(:fog) { Preset[round_preset.to_h.merge("name" => "Fog", "future" => {"kept" => true})] }
  let(:rope) {
    Preset.build("Rope", {"tip" => {"form" => {"kind" => "picture", "frames" => [sha(tip)]}, "size" => {"base" => 20}}})
  }
  let(:assets) {
    {
      sha(tip) => package::Bundle::Asset.new(bytes: tip, ext: "png"),
      sha(spare) => package::Bundle::Asset.new(bytes: spare, ext: "png")
    }
  }
  let(:bundle) do
    package::Bundle.build(
      items: [
        package::Bundle::Item.new(preset: rope, version: 3),
        package::Bundle::Item.new(preset: fog, version: 1)
],
      assets:,
      sets: [package::Bundle::Group.new(name: "Küste", presets: [fog.id, rope.id])],
      tags: [package::Bundle::Tag.new(name: "sea", colour: "teal", shape: "round")],
      strips: {fog.id => S::Strip.png(fog)},
      name: "Harbour",
      licence: "CC-BY-4.0",
      author: "Maren Oake"
    )
  end
  let(:zip) { package::Writer.zip(bundle) }

  it "takes a preview picture along; a brush whose picture is missing comes without it, and paints the same" do
    pictured = rope.with("about", rope.to_h["about"].merge("picture" => sha(spare)))
    expect([pictured.needs, pictured.parts, pictured.fingerprint]).to eq(
      [[sha(tip), sha(spare)], [sha(tip)], rope.fingerprint]
    )
    zip = package::Writer.zip(
      package::Bundle.build(items: [package::Bundle::Item.new(preset: pictured, version: 1)], assets:, name: "One")
    )
    back = package::Reader.read(zip)
    expect(back.items.first.preset.preview).to eq(sha(spare))
    expect(back.assets.keys).to contain_exactly(sha(tip), sha(spare))
    without = repacked(zip, sums: true) { |files| files.delete("assets/#{sha(spare)[7..]}.png") }
    came = package::Reader.read(without).items.first.preset
    expect([came.preview, came.fingerprint]).to eq([nil, rope.fingerprint])
  end

  # Changes what lies in a package and packs it again, with or without new sums.
  def repacked(zip, sums: false)
    files = Fobrel::Core::Package::Archive.read(zip)
    payload = files.select { |path, _| path.start_with?("data/") }.transform_keys { _1.delete_prefix("data/") }
    yield sums ? payload : files
    files = Fobrel::Core::Package::Writer.bag(payload) if sums
    raw_zip(files)
  end

  def raw_zip(files)
    Zip::OutputStream.write_buffer(StringIO.new("".b)) { |out|
      files.each { |path, bytes|
        out.put_next_entry(path) && out.write(bytes)
      }
    }.string
  end

  it "stores what is packed already, and packs the words" do
    ways = Zip::File.open_buffer(zip).to_h { |entry| [File.extname(entry.name), entry.compression_method] }
    expect(ways.values_at(".png", ".json")).to eq([Zip::Entry::STORED, Zip::Entry::DEFLATED])
  end

  it "comes back as it went: fingerprints, order, versions, sets, tags, unknown settings" do
    back = package::Reader.read(zip)
    expect(back.presets.map(&:fingerprint)).to eq([rope, fog].map(&:fingerprint))
    expect(back.presets.last.to_h).to eq(fog.to_h)
    expect(back.items.map(&:version)).to eq([3, 1])
    expect([back.name, back.sets, back.tags, back.author]).to eq([bundle.name, bundle.sets, bundle.tags, "Maren Oake"])
    expect(package::Writer.zip(back)).to eq(zip)
  end

  it "carries a drawn shape, and refuses one that is no drawing" do
    svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9v9z"/></svg>'
    sail = ->(text) {
      Preset.build("Sail", {"tip" => {"form" => {"kind" => "shape", "asset" => sha(text)}, "size" => {"base" => 20}}})
    }
    packed = ->(text) {
      package::Writer.zip(
        package::Bundle.build(
          items: [package::Bundle::Item.new(preset: sail[text], version: 1)],
          assets: {sha(text) => package::Bundle::Asset.new(bytes: text, ext: "svg")}
        )
      )
    }
    expect(package::Reader.read(packed[svg]).assets.values.first.bytes).to eq(svg)
    expect {
      package::Reader.read(packed["<svg <"])
    }.to raise_error(package::Reader::Invalid, /cannot be drawn|not a plain SVG/)
  end

  it "gives the same bytes for the same content" do
    shuffled = Preset[fog.to_h.to_a.reverse.to_h]
    again = package::Bundle.build(
      items: [bundle.items[0], package::Bundle::Item.new(preset: shuffled, version: 1)],
      assets: assets.to_a.reverse.to_h,
      sets: bundle.sets,
      tags: bundle.tags,
      strips: bundle.strips,
      name: "Harbour",
      licence: "CC-BY-4.0",
      author: "Maren Oake"
    )
    expect(package::Writer.zip(again)).to eq(zip)
  end

  it "writes the same into a file, with one picture in memory at a time" do
    Dir.mktmpdir do |folder|
      File.open("#{folder}/p.zip", "w+b") { |file| package::Writer.write(bundle, file) }
      expect(File.binread("#{folder}/p.zip")).to eq(zip)
      File.open("#{folder}/p.zip", "rb") { |file|
        package::Archive.open(file) { |files|
          expect(package::Reader.survey(files).items.map(&:version)).to eq([3, 1])
        }
      }
    end
  end

  it "holds what was picked and what that needs, and nothing else" do
    expect(package::Archive.read(zip).keys).to contain_exactly(
      "bagit.txt",
      "bag-info.txt",
      "manifest-sha256.txt",
      "tagmanifest-sha256.txt",
      "data/bundle.json",
      "data/presets/#{fog.id}.json",
      "data/presets/#{rope.id}.json",
      "data/assets/#{Digest::SHA256.hexdigest(tip)}.png",
      "data/strips/#{fog.id}.png"
    )
  end

  # Outside references: the bagit gem (RFC 8493) and Info-ZIP's unzip.
  it "is a valid bag to the bagit gem, opened with unzip" do
    Dir.mktmpdir do |folder|
      File.binwrite("#{folder}/p.zip", zip)
      _, status = Open3.capture2e("unzip", "-q", "#{folder}/p.zip", "-d", "#{folder}/bag")
      bag = BagIt::Bag.new("#{folder}/bag")
      expect([status.success?, bag.valid?, bag.errors.full_messages]).to eq([true, true, []])
    end
  end

  it "names the preset and the picture where one is missing" do
    expect {
      package::Bundle.build(
        items: bundle.items,
        assets: {}
      )
    }.to raise_error(Fobrel::Core::Preset::MissingNeed, /“Rope” needs the picture sha256:/)
    without = repacked(zip, sums: true) { |payload| payload.delete_if { |path, _| path.start_with?("assets/") } }
    expect { package::Reader.read(without) }.to raise_error(package::Reader::Invalid, /“Rope” needs the picture/)
  end

  {
    "one changed byte" => [
      false,
      ->(files) {
        files.find {
          _1[0].end_with?(".png")
        }[1][40] = "\0"
      },
      /was changed since it was packed/
],
    "a file that nobody listed" => [false, ->(files) { files["data/extra.txt"] = "x" }, /not listed/],
    "a listed file missing" => [false, ->(files) { files.delete("data/bundle.json") }, /listed but missing/],
    "no bagit.txt" => [false, ->(files) { files.delete("bagit.txt") }, /has no bagit\.txt/],
    "a changed bag-info.txt" => [false, ->(files) { files["bag-info.txt"] += "X: y\n" }, /bag-info\.txt was changed/],
    "a preset with a text for a size" => [
      true,
      ->(files) {
        files.find {
          _1[0].start_with?("presets/")
        }[1].sub!(/"base": \d+/, '"base": "big"')
      },
      /tip\.size\.base must be a number/
],
    "a bundle.json that is a list" => [
      true,
      ->(files) {
        files["bundle.json"] = "[]"
      },
      /not the description of a package/
],
    "a set that names a stranger" => [
      true,
      ->(files) {
        files["bundle.json"].sub!(/"presets": \[\s+"[0-9a-f-]+"/, '"presets": ["nobody"')
      },
      /names a preset that the bundle does not hold/
    ]
  }.each do |what, (sums, change, sentence)|
    it "refuses #{what}" do
      broken = repacked(zip, sums:) { change.call(_1) }
      expect { package::Reader.read(broken, name: "p.zip") }.to raise_error(package::Reader::Invalid, sentence)
    end
  end

  {
    "../evil.json" => "leads out",
    "/etc/evil" => "leads out",
    "data/..\\evil" => "leads out",
    "data/../../evil" => "leads out",
    "c:evil" => "leads out"
  }.each do |path, why|
    it "refuses the path #{path}" do
      # The library itself writes no absolute path, so the name is put in afterwards.
      hostile = raw_zip({"~#{path[1..]}" => "x"}).gsub("~#{path[1..]}".b, path.b)
      expect {
        package::Archive.read(
          hostile,
          name: "p.zip"
        )
      }.to raise_error(package::Archive::Refused, /p\.zip has a path that #{why}.*Nothing was kept/)
    end
  end

  it "refuses a bomb without unpacking it" do
    bomb = raw_zip({"data/zeros" => "\0" * 60_000_000})
    expect(bomb.bytesize).to be < 100_000
    expect { package::Archive.read(bomb) }.to raise_error(package::Archive::Refused, /suspiciously tight/)
  end

  # What overlaps unpacks many times what is stored (Fifield, "A better zip bomb", WOOT 2019).
  it "refuses files that lie over one another, and a million of them, before unpacking any" do
    one = raw_zip({"a" => "\0" * 900_000})
    at = one.index("PK\x01\x02".b)
    entry = one[at, one.index("PK\x05\x06".b) - at]
    many = one[0,
      at] + entry + entry.sub("a", "b") + ["PK\x05\x06", 0, 0, 2, 2, entry.bytesize * 2, at, 0].pack("a4vvvvVVv")
    expect { package::Archive.read(many) }.to raise_error(package::Archive::Refused, /lie over one another/)
    tiny = raw_zip({"a" => "1"})
    end_of = tiny.index("PK\x05\x06".b)
    wide = "PK\x06\x06".b + [44].pack("Q<") + "\0" * 12 + [
      1_000_000,
      1_000_000,
      46,
      end_of
    ].pack("Q<4") + "PK\x06\x07".b + [0, end_of, 1].pack("VQ<V")
    claims = {
      "in the plain record" => tiny.dup.tap { |bytes|
        bytes[end_of + 8, 4] = [65_535, 65_535].pack("vv")
      },
      "in the wide one" => tiny[0, end_of] + wide + tiny[end_of..]
    }
    claims.each_value { |bytes|
      expect {
        package::Archive.read(bytes)
      }.to raise_error(package::Archive::Refused, /more than 50000 files/)
    }
  end

  it "reads no more than a ZIP states, and refuses the lie" do
    liar = raw_zip({"a" => "word " * 400})
    [liar.index("PK\x01\x02".b) + 24].each { |at| liar[at, 4] = [10].pack("V") }
    expect { package::Archive.read(liar) }.to raise_error(package::Archive::Refused)
  end

  it "refuses links, doubled names and what is no ZIP" do
    link = Zip::OutputStream.write_buffer(StringIO.new("".b)) { |out|
      out.put_next_entry("link") && out.write("/etc/passwd")
    }.string
    at = link.index("PK\x01\x02".b)
    link[at + 5] = "\x03"
    link[at + 38, 4] = [0o120777 << 16].pack("V")
    expect { package::Archive.read(link) }.to raise_error(package::Archive::Refused, /link/)
    expect {
      package::Archive.read(raw_zip({"A" => "1", "a" => "2"}))
    }.to raise_error(package::Archive::Refused, /same name/)
    # Of two that are called the same to the letter the library shows one only.
    twice = raw_zip({"aa" => "1", "ab" => "2"})
    expect(package::Archive.read(twice).size).to eq(2)
    twice.gsub!("ab".b, "aa".b)
    expect { package::Archive.read(twice) }.to raise_error(package::Archive::Refused, /same name/)
    ["", "text", zip[0, zip.bytesize / 2], "PK\x05\x06".b].each { |bytes|
      expect {
        package::Archive.read(bytes)
      }.to raise_error(package::Archive::Refused)
    }
  end

  # Seeded and bounded: whatever happens to a package on its way, it is taken whole or refused.
  it "survives changed bytes anywhere" do
    chance = Random.new(11)
    outcomes = Array.new(150) do
      broken = zip.dup
      chance.rand(1..4).times { broken.setbyte(chance.rand(broken.bytesize), chance.rand(256)) }
      package::Reader.read(broken).presets.map(&:fingerprint)
    rescue Fobrel::Core::Problem
      :refused
    end
    expect(outcomes.uniq - [:refused, [rope, fog].map(&:fingerprint)]).to be_empty
    expect(outcomes.count(:refused)).to be > 100
  end
end
