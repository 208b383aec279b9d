# frozen_string_literal: true

require "support/api"

RSpec.describe "seats", :api do
  let(:library) { "/api/libraries/#{@first.id}" }
  let(:presets) { @first.presets.shown.order(:id).to_a }

  before { sign_in("maren") }
  after { FileUtils.rm_rf(Dir.glob("#{Fobrel.var}/seats/*")) }

  def make(name, **more) = call(:post, "#{library}/seats", {name:, **more})

  def lines(*list, part: "startup") = list.map { |preset| {thing: "brush/#{preset.document_id}", part:} }

  def plan(seat, list, **more) = call(:put, "/api/seats/#{seat["id"]}/plan", {lines: list, **more})["seat"]

  def hand_out(seat, **how) = call(:post, "/api/seats/#{seat["id"]}/hand-out", how)

  def see(seat) = call(:get, "/api/seats/#{seat["id"]}")

  def folder(seat) = "#{Fobrel.var}/seats/#{seat["folder"]}"

  def titles(seat) = seat["lines"].map { |line| line["title"] }

  it "load what was planned, in order, and the folder is asked what lies there" do
    seat = make("Line desk ä")
    expect(seat.values_at("state", "folder")).to eq(["empty", "line-desk-a-#{@first.id}"])
    plan(
      seat,
      lines(*presets.values_at(2, 0, 1)) + lines(presets[3], part: "shelf"),
      keys: {presets[2].document_id => "5"}
    )
    expect(hand_out(seat).values_at("state", "said")).to eq(["current", ""])
    names = presets.values_at(2, 0, 1).each_with_index.map { |one, at| "0#{at + 1} #{one.name}.json" }
    expect(Dir.children("#{folder(seat)}/startup").sort).to eq(names)
    started = call(:post, "/api/seats/#{seat["id"]}/restart", {})
    expect(started["report"]["loaded"].map { |one| one.values_at("name", "ok", "key") })
      .to eq([[presets[2].name, true, "5"], [presets[0].name, true, nil], [presets[1].name, true, nil]])
    # Altered by hand, and behind everybody's back.
    path = "#{folder(seat)}/startup/#{names[0]}"
    File.write(path, File.read(path).sub(/"base": [\d.]+/, '"base": 91'))
    File.delete("#{folder(seat)}/startup/#{names[1]}")
    File.write(
      "#{folder(seat)}/startup/mine.json",
      File.read("#{folder(seat)}/startup/#{names[2]}").sub(presets[1].name, "Mine")
    )
    File.write("#{folder(seat)}/note.txt", "Do not touch")
    found = see(seat)
    expect(found["state"]).to eq("drifted")
    kinds = found["found"].to_h { |one| [one["path"], one["kind"]] }
    expect(kinds).to eq(
      "startup/#{names[0]}" => "altered",
      "startup/#{names[1]}" => "missing",
      "startup/mine.json" => "foreign",
      "note.txt" => "foreign"
    )
    expect(found["found"].find { |one| one["kind"] == "altered" }["words"].join).to match(/91 px/)
    call(:post, "/api/seats/#{seat["id"]}/repair", {paths: ["startup/#{names[1]}"]})
    expect(see(seat)["found"].map { |one| one["kind"] }).to contain_exactly("altered", "foreign", "foreign")
    offer = call(
      :post,
      "/api/seats/#{seat["id"]}/decisions",
      {path: "startup/#{names[0]}", decision: "offer", sentence: "Broader"}
    )
    expect(Studio::M::Offer.find(offer["offer"]).items.sole.value["mark", "size", "base"]).to eq(91)
    call(:post, "/api/seats/#{seat["id"]}/decisions", {path: "startup/mine.json", decision: "own"})
    call(:post, "/api/seats/#{seat["id"]}/decisions", {path: "note.txt", decision: "leave"})
    3.times { hand_out(seat) }
    expect(see(seat)["state"]).to eq("current")
    expect(File.read("#{folder(seat)}/note.txt")).to eq("Do not touch")
    expect(Dir.children("#{folder(seat)}/startup").sort).to eq([*names, "mine.json"])
    expect(Dir.children("#{folder(seat)}/aside")).to eq([names[0]])
  end
end
