# frozen_string_literal: true

# What people drop: every kind of file, alone and together, sound and broken.
RSpec.describe Fobrel::Core::Package::Delivery do
  def package = Fobrel::Core::Package

  let(:square) {
    grey_png(
      Array.new(24) { |y|
        Array.new(24) { |x|
          (x.between?(6, 16) && y.between?(4, 18)) ? 0 : 255
        }
      }
    )
  }
  let(:bar) { grey_png(Array.new(24) { |y| Array.new(24) { |x| x.between?(2, 5) ? 0 : 255 } }) }
  let(:rope) {
    Preset.build("Rope", {"tip" => {"form" => {"kind" => "picture", "frames" => [sha(bar)]}, "size" => {"base" => 20}}})
  }
  let(:svg) { '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9v9z"/></svg>' }

  def read(files)
    described_class.read(files.map { |name, bytes| described_class::File.new(name, StringIO.new(bytes.b)) })
  end

  def zip(files) = package::Writer.pack(files)

  def packed(presets, assets: {}, **more)
    package::Writer.zip(
      package::Bundle.build(
        items: presets.map {
          package::Bundle::Item.new(preset: _1, version: 2)
        },
        assets:,
        **more
      )
    )
  end

  # Frames one over the other, as the formats' own library writes them.
  def pages(*pictures, writer: :tiffsave_buffer)
    images = pictures.map { Vips::Image.new_from_buffer(_1, "") }
    images = images.map { _1.colourspace(:srgb) } unless writer == :tiffsave_buffer
    tall = Vips::Image.arrayjoin(images, across: 1)
    tall.mutate { |image| image.set_type!(GObject::GINT_TYPE, "page-height", images.first.height) }.public_send(writer)
  end

  def drawing(layers, visible: true)
    stack = layers.each_with_index.map { |(x, y, _), index|
      hidden = ' visibility="hidden"' if !visible && index.zero?
      %(<layer name="L#{index}" src="data/l#{index}.png" x="#{x}" y="#{y}"#{hidden}/>)
    }.join
    zip(
      {
        "mimetype" => "image/openraster",
        "stack.xml" => %(<?xml version="1.0"?><image w="40" h="30"><stack>#{stack}</stack></image>),
        **layers.each_with_index.to_h { |(_, _, png), index|
          ["data/l#{index}.png", png]
        }
      }
    )
  end

  it "takes a package with its versions, sets, tags and export templates" do
    bytes = packed(
      [rope],
      assets: {sha(bar) => package::Bundle::Asset.new(bytes: bar, ext: "png")},
      name: "Harbour",
      sets: [package::Bundle::Group.new(name: "Kit", presets: [rope.id])],
      tags: [package::Bundle::Tag.new(name: "sea", colour: "teal", shape: "round")],
      export_templates: package::ExportTemplate.examples.first(1)
    )
    found = read({"h.fobrel.zip" => bytes})
    expect(found.items.map { [_1.kind, _1.preset.fingerprint, _1.version] }).to eq([["preset", rope.fingerprint, 2]])
    expect(
      [
        found.words[:name],
        found.sets.map(&:name),
        found.tags.map(&:name),
        found.export_templates,
        found.assets.keys
      ]
    ).to eq(["Harbour", ["Kit"], ["sea"], package::ExportTemplate.examples.first(1), [sha(bar)]])
  end

  it "makes a tip of each picture and shape, and of several together one reel if wanted" do
    found = read({"rope coil.png" => square, "bar.png" => bar, "leaf.svg" => svg})
    expect(found.items.map { [_1.name, _1.way] }).to eq([["rope coil", "each"], ["bar", "each"], ["leaf", "each"]])
    expect(found.items[2].preset["tip", "form", "kind"]).to eq("shape")
    found = read({"rope.zip" => zip({"a/1.png" => square, "a/2.png" => bar})})
    expect(
      found.items.map {
        [
          _1.name,
          _1.way,
          _1.usual,
          _1.preset.frames.size
        ]
      }
    ).to eq([["1", "each", "each", 1], ["2", "each", "each", 1], ["rope", "reel", "each", 2]])
    expect(read({"ropes/1.png" => square, "ropes/in/2.png" => bar}).items.map(&:name)).to eq(%w[1 2 ropes])
    expect(found.items.last.preset.frames).to eq(found.items.first(2).flat_map { _1.preset.frames })
  end

  # Facts of the trade: one layer is one frame, the frame count equals the layer count, a single
  # frame is valid (common practice, no source).
  it "makes a reel of layers, pages and frames, or a tip of each" do
    {
      "a.ora" => drawing([[0, 0, square], [10, 3, bar]]),
      "a.tif" => pages(square, bar),
      "a.gif" => pages(square, bar, writer: :gifsave_buffer),
      "a.webp" => pages(square, bar, writer: :webpsave_buffer)
    }.each do |name, bytes|
      items = read({name => bytes}).items
      expect(
        [
          name,
          items.map {
            [_1.way, _1.usual, _1.preset&.frames&.size]
          }
        ]
      ).to eq(
        [
          name,
          [["reel", "reel", 2], ["each", "reel", 1], ["each", "reel", 1]]
        ]
      )
      expect(items[0].preset.frames.uniq.size).to eq(2)
    end
    expect(read({"one.ora" => drawing([[0, 0, bar]])}).items.map { [_1.way, _1.preset.frames.size] }).to eq([[nil, 1]])
    expect(
      read({"hidden.ora" => drawing([[0, 0, square], [0, 0, bar]], visible: false)}).items.map {
        _1.preset.frames.size
      }
    ).to eq([1])
  end

  it "says which layer is blank and takes the others" do
    blank = grey_png(Array.new(24) { Array.new(24, 255) })
    items = read({"a.tif" => pages(square, blank, bar)}).items
    expect(
      items.map {
        [_1.kind, _1.preset&.frames&.size]
      }
    ).to eq([["unreadable", nil], ["preset", 2], ["preset", 1], ["preset", 1]])
    expect(items.first.sentence).to match(/a\.tif, frame 2 has nothing dark enough/)
  end

  it "takes presets as JSON and in a table, with the pictures lying beside them" do
    loose = read({"rope.json" => rope.canonical, "parts/bar.png" => bar, "note.png" => square})
    expect(loose.items.map { [_1.kind, _1.preset&.fingerprint] }).to eq([["preset", rope.fingerprint], ["aside", nil]])
    expect(loose.items.last.sentence).to match(/note\.png: no preset here needs this/)
    table = package::Table.write([rope, round_preset(size: 9)])
    found = read({"brushes.csv" => table}).items
    expect(found.map { [_1.kind, _1.name] }).to eq([%w[lacking Rope], %w[preset Round]])
    expect(found.first.sentence).to match(/“Rope” needs the picture sha256:/)
    kit = package::Kit.zip([round_preset(size: 9)], assets: {}, strips: {})
    expect(read({"kit.zip" => kit}).items.map(&:kind)).to include("preset")
  end

  it "keeps the sound rest where a need was removed, and names the preset and the need" do
    bytes = packed(
      [rope, round_preset],
      assets: {sha(bar) => package::Bundle::Asset.new(bytes: bar, ext: "png")},
      sets: [package::Bundle::Group.new(name: "Kit", presets: [rope.id])]
    )
    payload = package::Archive.read(bytes).select { |path, _|
      path.start_with?("data/") && !path.include?("assets")
    }.transform_keys { _1.delete_prefix("data/") }
    found = read({"p.zip" => zip(package::Writer.bag(payload))})
    expect(found.items.map { [_1.kind, _1.name] }).to eq([%w[preset Round], %w[lacking Rope]])
    expect(found.items.last.sentence).to match(/“Rope” needs the picture sha256:#{sha(bar)[7, 10]}/)
  end

  it "keeps what a later version wrote, and reports it; settings it does not know are handed on" do
    later = round_preset.to_h.merge("format" => "fobrel.preset/2", "swirl" => 3)
    strange = Preset[round_preset.to_h.merge("id" => SecureRandom.uuid, "swirl" => 3)]
    found = read({"later.json" => JSON.generate(later), "strange.json" => strange.canonical}).items
    expect(
      found.map {
        [_1.kind, _1.document || _1.preset.to_h]
      }
    ).to match_array([["future", later], ["preset", strange.to_h]])
    expect(found.find { _1.kind == "future" }.sentence).to match(/later version \(fobrel\.preset\/2\)/)
    expect(found.find { _1.kind == "preset" }.preset.unknown).to eq(["swirl"])
    payload = {
      "presets/#{later["id"]}.json" => JSON.generate(later),
      "bundle.json" => JSON.generate({"name" => "x", "presets" => [{"id" => later["id"], "version" => 1}]})
    }
    expect(
      read({"p.zip" => zip(package::Writer.bag(payload))}).items.map {
        [_1.kind, _1.document]
      }
    ).to eq([["future", later]])
  end

  # The corpus: each is answered with a sentence that names the file, and the rest stays usable.
  hostile = {
    "0 bytes" => ["a.png", ""],
    "0 bytes packed" => ["a.zip", ""],
    "half a picture" => ["a.png", :half],
    "half a ZIP" => ["a.zip", :half_zip],
    "text called a picture" => ["a.png", "hello"],
    "JSON 100 levels deep" => ["a.json", "#{"[" * 100}#{"]" * 100}"],
    "JSON 100 levels of objects" => ["a.json", "#{'{"a":' * 100}1#{"}" * 100}"],
    "a number out of range" => ["a.json", :range],
    "a number without end" => [
      "a.json",
      '{"format":"fobrel.preset/1","id":"0b0e3a52-6a0f-4c3d-9a50-0f1d8f2f6f11","name":"x","method":"dabs",' \
        '"tip":{"tip":{"kind":"round"},"size":{"base":1e999}}}'
],
    "a NUL in a name" => ["a.json", :nul],
    "an SVG that reads a file" => [
      "a.svg",
      '<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>' \
        '<svg xmlns="http://www.w3.org/2000/svg"><text>&x;</text></svg>'
],
    "an archive in an archive" => ["a.zip", :nested],
    "a drawing larger than any" => ["a.ora", :vast],
    "a drawing that lacks its layer" => ["a.ora", :hollow],
    "no file we know" => ["a.exe", "MZ\x90\x00"]
  }
  hostile.each do |what, (name, bytes)|
    it "answers #{what} in a sentence" do
      bytes = case bytes
      when :half then square[0, square.bytesize / 2]
      when :half_zip then packed([round_preset])[0, 700]
      when :range then round_preset.canonical.sub(/"hardness":[\d.]+/, '"hardness":7')
      when :nul then round_preset.canonical.sub('"Round"', '"Ro\u0000und"')
      when :nested then zip({"b.zip" => zip({"c.png" => square}), "d.png" => bar})
      when :vast then zip(
        {
          "mimetype" => "image/openraster",
          "stack.xml" => '<image w="100000" h="100000"><stack><layer src="l.png"/></stack></image>'
        }
      )
      when :hollow then zip(
        {
          "mimetype" => "image/openraster",
          "stack.xml" => '<image w="10" h="10"><stack><layer src="../../etc/passwd"/></stack></image>'
        }
      )
      else bytes
      end
      items = read({name => bytes, "good.png" => square}).items
      bad = items.reject { _1.kind == "preset" }
      expect([what, bad.map(&:sentence)]).to match([what, all(match(/\S+ .*\.\z/m))])
      expect(bad.map(&:kind).uniq).to eq(["unreadable"]).or eq(%w[unreadable aside])
      unless name == "a.json" && items.any? { _1.kind == "aside" }
        expect(
          items.map {
            _1.preset&.name
          }
        ).to include("good")
      end
    end
  end

  it "takes names in other scripts and 300 characters long, cut where they must be" do
    long = "#{"帆" * 300}.png"
    found = read({long => square, "Küste Ωμέγα ⛵.png" => bar}).items
    expect(found.map { [_1.kind, _1.name.size] }).to eq([["preset", 150], ["preset", 13], ["preset", 11]])
    deep = "#{"d/" * 150}x.png"
    expect(read({"z.zip" => zip({deep => square})}).items.map(&:kind)).to eq(["preset"])
    expect(read({"z.zip" => zip({"#{"d/" * 300}x.png" => square})}).items.map(&:kind)).to eq(["unreadable"])
  end

  # Seeded and bounded: whatever happens to a package on its way, it is taken as it was packed,
  # in part, or refused; nothing it brings was not in it, and nothing of a refused one is kept.
  it "survives whatever happens to valid packages" do
    chance = Random.new(29)
    bytes = packed(
      [rope, round_preset, round_preset(size: 9)],
      assets: {sha(bar) => package::Bundle::Asset.new(bytes: bar, ext: "png")}
    )
    sound = [rope, round_preset, round_preset(size: 9)].map(&:fingerprint)
    hurts = [
      ->(b) { b.setbyte(chance.rand(b.bytesize), chance.rand(256)) },
      ->(b) { b.slice!(chance.rand(b.bytesize), 1 + chance.rand(40)) },
      ->(b) {
        b.insert(chance.rand(b.bytesize), chance.bytes(1 + chance.rand(9)))
      },
      ->(b) { b.replace(b[0, chance.rand(b.bytesize)]) },
      ->(b) {
        (at = b.index(
          "PK\x01\x02".b,
          chance.rand(b.bytesize)
        )) && b.setbyte([at + 4 + chance.rand(42), b.bytesize - 1].min, chance.rand(256))
      },
      ->(b) {
        at = chance.rand(b.bytesize - 60)
        b[at, 30] = b[chance.rand(b.bytesize - 60), 30]
      }
    ]
    outcomes = Array.new(200) do
      hurt = bytes.dup
      (1 + chance.rand(3)).times { hurts.sample(random: chance).call(hurt) unless hurt.bytesize < 100 }
      kept = []
      found = described_class.read([described_class::File.new("p.zip", StringIO.new(hurt))]) { |reference, asset|
        kept << reference && asset
      }
      taken = found.items.select { _1.kind == "preset" }.map { _1.preset.fingerprint }
      expect(taken - sound).to eq([])
      expect(kept - [sha(bar)]).to eq([])
      taken.size
    end
    expect(outcomes.tally.keys - [0, 1, 2, 3]).to eq([])
    expect(outcomes.tally[0]).to be > 150
  end

  it "keeps the colours of layers on nothing, and lets black paint on paper" do
    layer = ->(*colour) {
      Vips::Image.black(12, 12).bandjoin([0, 0, 0]).copy(interpretation: :srgb).draw_rect(
        [*colour, 255],
        2,
        2,
        8,
        8,
        fill: true
      ).pngsave_buffer
    }
    reds = [[200, 0, 0], [0, 180, 0], [0, 0, 220]].map { layer[*_1] }
    list = reds.each_index.map { |i| %(<layer src="data/#{i}.png" x="0" y="0"/>) }.join
    ora = zip(
      {
        "mimetype" => "image/openraster",
        "stack.xml" => %(<image w="12" h="12"><stack>#{list}</stack></image>),
        **reds.each_with_index.to_h { |png, i|
          ["data/#{i}.png", png]
        }
      }
    )
    found = read({"three.ora" => ora}).items
    expect(found.map { _1.preset["tip", "form", "colours"] }.uniq).to eq(["own"])
    strip = Fobrel::Core::Stroke::Strip.png(
      found.first.preset,
      assets: read({"three.ora" => ora}).assets.transform_values(&:bytes)
    )
    shown = Vips::Image.new_from_buffer(strip, "")
    expect(
      (0..2).map { |band|
        shown.extract_band(band).min
      }.max
    ).to be < 120 # each colour is somewhere without the two others
    paper = Vips::Image.black(12, 12).bandjoin([0, 0]).copy(interpretation: :srgb).invert.draw_rect(
      [200, 0, 0],
      2,
      2,
      8,
      8,
      fill: true
    ).pngsave_buffer
    expect(read({"paper.png" => paper}).items.first.preset["tip", "form", "colours"]).not_to eq("own")
  end

  it "says of a file of another kind all that is read" do
    said = read({"a.exe" => "MZ\x90\x00"}).items.first.sentence
    expect(said).to include("a.exe is of a kind that is not read", "OpenRaster", "SVG", "CSV", "JSON", "PNG", "ZIP")
  end
end
