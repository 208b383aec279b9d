# frozen_string_literal: true

require_relative "../support/desk"

# A desk's folder: handed out by the agent, started by the stand-in, altered by hand.
RSpec.describe Fobrel::Core::Startup do
  include DeskHelp

  def kinds = drift.open.map { [_1["kind"], _1["path"]] }.sort

  def write(path, text) = File.write("#{@desk}/#{path}", text)

  def own(name, size = 7)
    JSON.generate(
      round_preset.to_h.merge(
        "name" => name,
        "tip" => {"form" => {"kind" => "round"}, "size" => {"base" => size}}
      )
    )
  end

  it "loads what was sent, in order, binds its keys, and measures it" do
    pull(1, [rope, "startup", "5"], [fog, "startup", nil], [ink, "shelf"])
    report = described_class::Start.run(@desk)
    expect(
      report[:loaded].map {
        _1.values_at(:name, :ok, :as_planned)
      }
    ).to eq([["Rope", true, true], ["Round", true, true]])
    expect(report.values_at(:failed, :stray, :keys)).to eq([0, [], {"5" => "Rope"}])
    # A tip of 64 × 64 with its copies, and nothing for a round tip.
    expect(report[:memory]).to eq(described_class::Load.memory(64, 64))
    expect(names("startup")).to eq(["01 Rope.json", "02 Round.json"])
    expect(names("shelf")).to eq(["01 Ink.json"])
    expect(File.read("#{@desk}/READ ME.txt")).to include("Desk, start-up plan 1", "5        Rope")
  end

  it "tells what was altered, deleted, added, renamed, put in another order and on another key" do
    pull(1, [rope, "startup", "5"], [fog, "startup"], [ink, "startup"])
    write("startup/01 Rope.json", own("Rope", 90))
    File.delete("#{@desk}/startup/02 Round.json")
    File.rename("#{@desk}/startup/03 Ink.json", "#{@desk}/startup/my ink.json")
    write("startup/mine.json", own("Mine"))
    write("note.txt", "hello")
    said = JSON.parse(File.read("#{@desk}/start.json"))
    said["startup"].reverse!
    said["startup"].last["key"] = "9"
    write("start.json", JSON.generate(said))
    expect(kinds).to eq(
      [
        ["altered", "startup/01 Rope.json"],
        ["foreign", "note.txt"],
        ["foreign", "startup/mine.json"],
        ["missing", "startup/02 Round.json"],
        ["out of order", "start.json"],
        ["renamed", "startup/03 Ink.json"],
        ["wrong key", "startup/01 Rope.json"]
      ]
    )
    expect(drift.items.find { _1["kind"] == "altered" }["document"]["tip"]["size"]["base"]).to eq(90)
  end

  it "puts right what is named and nothing else, and loses nothing of it" do
    pull(1, [rope, "startup"], [fog, "startup"])
    write("startup/01 Rope.json", own("Rope", 90))
    File.delete("#{@desk}/startup/02 Round.json")
    agent(1).pull(repair: ["startup/02 Round.json"])
    expect(kinds).to eq([["altered", "startup/01 Rope.json"]])
    agent(1).pull(repair: true)
    expect([kinds, names("aside")]).to eq([[], ["01 Rope.json"]])
    expect(JSON.parse(File.read("#{@desk}/aside/01 Rope.json"))["tip"]["size"]["base"]).to eq(90)
  end

  it "carries what it did not write through any number of sends" do
    FileUtils.mkdir_p("#{@desk}/startup/old")
    write("startup/old/stock.json", own("Stock"))
    write("READ ME.txt", "my own words")
    File.symlink("/etc/hostname", "#{@desk}/startup/link")
    pull(1, [rope, "startup"])
    write("startup/mine.json", own("Mine"))
    2.upto(9) { |n| pull(n, [[fog, "startup"], [rope, "startup"]][n % 2]) }
    expect(names("startup")).to include("link", "mine.json", "old/stock.json")
    expect(File.readlink("#{@desk}/startup/link")).to eq("/etc/hostname")
    expect(File.read("#{@desk}/aside/READ ME.txt")).to eq("my own words")
    expect(Dir.children("#{@desk}/.fobrel/states").size).to eq(described_class::Agent::STATES)
    expect(File.read("#{@desk}/.fobrel/before/READ ME.txt")).to eq("my own words")
  end

  it "leaves what somebody decided to leave, wherever its number moves it" do
    pull(1, [rope, "startup"], [fog, "startup"])
    write("startup/01 Rope.json", own("Rope", 90))
    File.delete("#{@desk}/startup/02 Round.json")
    sum = drift.items.find { _1["kind"] == "altered" }["sum"]
    kept = [
      {"path" => "startup/01 Rope.json", "id" => rope.id, "sum" => sum},
      {"path" => "startup/02 Round.json", "id" => fog.id, "sum" => "gone"}
    ]
    pull(2, [ink, "startup"], [rope, "startup"], [fog, "startup"], kept:)
    expect(names("startup")).to eq(["01 Ink.json", "02 Rope.json"])
    expect(JSON.parse(File.read("#{@desk}/startup/02 Rope.json"))["tip"]["size"]["base"]).to eq(90)
    expect([kinds, names("aside")]).to eq([[], []])
    # Left was what it was then; another change is told again.
    write("startup/02 Rope.json", own("Rope", 91))
    expect(kinds).to eq([["altered", "startup/02 Rope.json"]])
  end

  it "puts a studio's brush in the place of a stock one, whose original waits and comes back" do
    FileUtils.mkdir_p("#{@desk}/startup")
    write("startup/Soft round.json", own("Soft round", 12))
    stock = File.read("#{@desk}/startup/Soft round.json")
    pull(1, [rope, "startup", nil, {replaces: "Soft round"}])
    expect([names("startup"), names("originals")]).to eq([["01 Soft round.json"], ["Soft round.json"]])
    shown = JSON.parse(File.read("#{@desk}/startup/01 Soft round.json"))
    expect(shown.values_at("name", "id")).to eq(["Soft round", rope.id])
    expect(kinds).to eq([])
    pull(2, [rope, "startup"])
    expect(File.read("#{@desk}/startup/Soft round.json")).to eq(stock)
    expect(names("originals")).to eq([])
  end

  it "goes back to a plan that is kept here, and to what was there before, with no server" do
    FileUtils.mkdir_p("#{@desk}/startup")
    write("startup/stock.json", own("Stock"))
    pull(1, [rope, "startup"])
    pull(2, [fog, "startup"])
    File.delete("#{@desk}/startup/stock.json")
    expect(agent(2).kept_plans.map { _1["plan"] }).to eq([2, 1])
    expect(agent(2).back(1).number).to eq(1)
    expect(names("startup")).to eq(["01 Rope.json"])
    # The plan that was left does not come again by itself; a newer one does.
    expect(agent(2).pull.swapped).to be(false)
    agent(2).back(nil)
    expect(names("startup")).to eq(["stock.json"])
    pull(3, [ink, "startup"])
    expect(names("startup")).to eq(["01 Ink.json", "stock.json"])
    expect { agent(3).back(77) }.to raise_error(Fobrel::Core::Problem, /no longer kept here/)
  end

  it "writes names that a file system dislikes safely, and the brush keeps its own" do
    wild = ["CON", "a/b\\c", "Fog", "fog", "über Ñandú 雨", "dots...", "", " ", "x" * 90, "..", "new\nline", "-rf"]
    brushes = wild.each_with_index.map { |name, at|
      Preset[round_preset.to_h.merge("name" => "#{name}#{at if name.strip.empty?}", "id" => SecureRandom.uuid)]
    }
    pull(1, *brushes.map { [_1, "startup"] })
    files = names("startup")
    expect(files.size).to eq(wild.size)
    expect(files.map(&:downcase).uniq.size).to eq(wild.size)
    expect(files).to all(match(/\A\d\d [^\/\\:*?"<>|\p{Cntrl}]{1,70}\.json\z/))
    # The number in front makes no file a device or hidden (common practice, no source).
    report = described_class::Start.run(@desk)
    expect(report[:loaded].map { _1[:name] }).to eq(brushes.map(&:name))
    expect(kinds).to eq([])
  end

  it "has nothing to start from before anything is sent, and says what a painting program meets" do
    expect { described_class::Start.run(@desk) }.to raise_error(Fobrel::Core::Problem, /Send a start-up plan/)
    pull(1, [rope, "startup"], [fog, "startup"])
    FileUtils.rm(Dir.glob("#{@desk}/parts/*"))
    File.write("#{@desk}/startup/02 Round.json", "{")
    write("startup/mine.json", own("Mine"))
    report = described_class::Start.run(@desk)
    expect(report[:loaded].map { [_1[:ok], _1[:problem]] }).to match(
      [[false, /Its part .* is not in the folder/], [false, /Round/], [true, nil]]
    )
    expect(report.values_at(:failed, :stray)).to eq([2, ["startup/mine.json"]])
    write("start.json", "nonsense")
    expect { described_class::Start.run(@desk) }.to raise_error(Fobrel::Core::Problem, /damaged/)
  end

  it "hands out nothing when a picture is missing" do
    entry = described_class::Plan::Entry.new(preset: rope, part: "startup")
    about = {desk: {"id" => 1, "name" => "Desk"}, number: 1, at: Time.now, by: "Maren"}
    expect {
      described_class::Plan.build([entry], assets: {}, **about)
    }.to raise_error(Fobrel::Core::Preset::MissingNeed)
  end

  it "puts no line of somebody else's into what people read" do
    entry = Fobrel::Core::Startup::Plan::Entry.new(preset: fog, part: "startup", key: "5")
    made = Fobrel::Core::Startup::Plan.build(
      [entry],
      assets: {},
      desk: {"id" => 1, "name" => "Desk\n\nAll is well"},
      number: 1,
      at: Time.at(0),
      by: "Maren\r\nHanded out by nobody",
      why: "a\nstart.json is wrong"
    )
    words = made.contents["READ ME.txt"].lines.first(3)
    expect(words[0]).to eq("Desk All is well, start-up plan 1\n")
    expect(words[1]).to match(/\ASent by Maren Handed out by nobody, 1970.*a start\.json is wrong\n\z/)
    hostile = {**made.to_h, "files" => {"parts/#{"0" * 64}.exe" => {"sum" => "0" * 64, "bytes" => 1}}}
    expect { Fobrel::Core::Startup::Plan.check(hostile) }.to raise_error(Fobrel::Core::Problem, /where none may be/)
  end

  it "says what is wrong of a plan that somebody wrote over, whatever stands there" do
    pull(1, [fog, "startup"])
    kept = Dir["#{@desk}/.fobrel/states/*/.plan.json"].first
    odd = [
      "[]",
      "{}",
      "null",
      "3",
      '{"files": []}',
      '{"files": {"a": 1}, "startup": [], "shelf": []}',
      "\xFF",
      "{" * 200
    ]
    odd.each do |text|
      File.binwrite(kept, text)
      expect([text, Fobrel::Core::Startup::Folder.new(@desk).plan, drift]).to eq([text, nil, nil])
    end
  end
end
