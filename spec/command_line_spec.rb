# frozen_string_literal: true

require "open3"
require "support/command"

RSpec.describe "bin/fobrel", :command do
  # As a program of its own, which takes seconds to start; the other examples call it in this process.
  it "is a program that answers on its own streams" do
    program = File.expand_path("../bin/fobrel", __dir__)
    File.write("bad.json", "{")
    out, err, ended = Open3.capture3(program, "preset", "check", "bad.json")
    expect([out, err, ended.exitstatus]).to match(["", /bad\.json/, 1])
  end

  # Not by its name: the library remembers files by name, and these come and go.
  def read(file) = Vips::Image.new_from_buffer(File.binread(file), "")

  let(:preset) do
    {
      "format" => "fobrel.preset/1",
      "id" => "0b0e3a52-6a0f-4c3d-9a50-0f1d8f2f6f11",
      "name" => "Line",
      "method" => "dabs",
      "tip" => {"form" => {"kind" => "round", "hardness" => 1}, "size" => {"base" => 40}},
      "stroke" => {"spacing" => 0.25}
    }
  end

  it "makes a tip, and says what it is" do
    Vips::Image.black(60, 40).invert.draw_rect(
      [0],
      20,
      10,
      10,
      20,
      fill: true
    ).copy(interpretation: :b_w).write_to_file("scan.png")
    out, _, status = fobrel("tip", "scan.png", "-o", "tip.png", "--json")
    expect(JSON.parse(out)).to include(
      "width" => 20,
      "height" => 20,
      "greatest_cover" => 1.0,
      "mean_cover" => 0.5,
      "solid" => true,
      "sha256" => Digest::SHA256.file("tip.png").hexdigest
    )
    expect(status).to eq(0)
    tip = read("tip.png")
    expect([tip.bands, tip.format, tip.getpoint(10, 10), tip.getpoint(1, 1)]).to eq([1, :uchar, [0.0], [255.0]])
  end

  it "paints a stroke and reports every dab" do
    File.write("p.json", JSON.generate(preset))
    File.write("s.json", '[{"x":50,"y":50},{"x":450,"y":50}]')
    _, err, status = fobrel(
      "stroke",
      "p.json",
      "--samples",
      "s.json",
      "--page",
      "500x100",
      "--paper",
      "none",
      "-o",
      "o.png",
      "--report",
      "r.json"
    )
    expect([err, status]).to eq(["", 0])
    report = JSON.parse(File.read("r.json"))
    expect(
      [
        report["length"],
        report["dabs"].size,
        report["dabs"][3].keys.first(6)
      ]
    ).to eq([400.0, 41, %w[x y size angle opacity frame]])
    picture = read("o.png")
    expect(
      [
        picture.width,
        picture.height,
        picture.bands,
        picture.getpoint(250, 50)[3],
        picture.getpoint(250, 75)[3]
      ]
    ).to eq([500, 100, 4, 255.0, 0.0])
  end

  it "paints on a ground, and keeps a tip's own colours" do
    File.write("e.json", JSON.generate(preset.merge("paint" => {"eraser" => true})))
    File.write("s.json", '[{"x":10,"y":20},{"x":90,"y":20}]')
    (Vips::Image.black(
      100,
      40,
      bands: 3
    ) + [200, 40, 40]).cast(:uchar).copy(interpretation: :srgb).write_to_file("red.png")
    _, err, status = fobrel(
      "stroke",
      "e.json",
      "--samples",
      "s.json",
      "--ground",
      "red.png",
      "--size",
      "10",
      "--paper",
      "#ffffff",
      "-o",
      "o.png"
    )
    expect([err, status]).to eq(["", 0])
    picture = read("o.png")
    expect([picture.getpoint(50, 20), picture.getpoint(50, 35)]).to eq([[255.0] * 3, [200.0, 40.0, 40.0]])
    fobrel("tip", "red.png", "-o", "own.png", "--own", "keep")
    expect(read("own.png").getpoint(50, 50)).to eq([200.0, 40.0, 40.0, 255.0])
  end

  it "checks presets, builds, verifies and extracts packages" do
    FileUtils.mkdir_p("kit/presets")
    File.write("kit/presets/#{preset["id"]}.json", JSON.generate(preset))
    fobrel("package", "build", "kit", "-o", "kit.fobrel.zip")
    list, = fobrel("package", "list", "kit.fobrel.zip", "--json")
    print, = fobrel("preset", "fingerprint", "kit/presets/#{preset["id"]}.json")
    expect(JSON.parse(list)["presets"].map { _1["fingerprint"] }).to eq([print.strip])
    fobrel("package", "extract", "kit.fobrel.zip", "-o", "again")
    strip = Fobrel::Core::Stroke::Strip.png(Fobrel::Core::Preset::Preset[preset])
    expect(File.binread("again/strips/#{preset["id"]}.png")).to eq(strip)
    expect(fobrel("package", "build", "again", "-o", "two.fobrel.zip").last).to eq(0)
    expect(File.binread("two.fobrel.zip")).to eq(File.binread("kit.fobrel.zip"))
    expect(fobrel("package", "verify", "two.fobrel.zip").last).to eq(0)
  end

  it "tells a problem from a wrong use, and leaves nothing behind" do
    File.write("mark.png", "words")
    File.write("bad.json", JSON.generate(preset.merge("tip" => preset["tip"].merge("size" => {"base" => "big"}))))
    results = [
      %w[tip mark.png -o t.png],
      %w[tip nowhere.png -o t.png],
      %w[preset check bad.json],
      %w[package verify mark.png],
      %w[tip mark.png],
      %w[paint x],
      %w[stroke bad.json --page huge -o o.png],
      %w[tip mark.png -o t.png --sharp]
    ].map do |words|
      out, err, status = fobrel(*words)
      [status, out.empty?, err.lines.first.to_s.strip.empty?]
    end
    expect(results).to eq([[1, true, false]] * 4 + [[2, true, false]] * 4)
    expect(Dir.children(".")).to contain_exactly("mark.png", "bad.json")
  end

  it "sends no control characters of others to a terminal" do
    require_relative "../cli/plain_output"
    out = StringIO.new
    Fobrel::PlainOutput.new(out).puts("Fog\e[2J\e]0;owned\a", ["a\tb\r", "\u009B31mred", "ok\xFF".b])
    expect(out.string).to eq("Fog\uFFFD[2J\uFFFD]0;owned\uFFFD\na\tb\uFFFD\n\uFFFD31mred\nok\uFFFD\n")
  end
end
