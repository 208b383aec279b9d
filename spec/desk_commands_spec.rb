# frozen_string_literal: true

require "support/studio"
require "support/running"
require "support/command"
require "net/http"

# An artist's computer elsewhere: the agent speaks with a real server, by the desk's own token.
RSpec.describe Fobrel::DeskCommands, :command do
  before(:all) do
    Studio.clear
    @first, = Studio.build
    @maren = Studio::M::Person.find_by!(login: "maren")
    @running = Running.new
    @running.start
  end

  after(:all) do
    @running&.stop
    Studio.clear
  end

  before do
    Studio::M::Desk.destroy_all
    @desk = @first.desks.create!(name: "Laptop", folder: "laptop", away: true)
    @desk.put_in_order(@first.presets.shown.order(:id).limit(3).ids)
    _, @token = Studio::M::AccessToken.issue(@maren, "laptop", desk: @desk)
  end

  def desk(*words, **more)
    at = (words.first == "pull" || more[:report]) ? [
      "--server",
      more[:server] || @running.address,
      "--token",
      @token
    ] : []
    out, err, status = fobrel("desk", *words, *at, *("--report" if more[:report]), "--json")
    [out.empty? ? err : JSON.parse(out), status]
  end

  def send_to_desk = Fobrel::Actions::SendToDesk.call(desk: @desk.reload, person: @maren)

  def state = Studio::M::DeskState.of(@desk.reload).word

  it "fetches the plan, starts, reports, tells what was altered, goes back, and costs little where nothing is new" do
    expect(desk("pull", "desk")).to match([/Nothing was sent to Laptop yet/, 1])
    send_to_desk
    found, status = desk("pull", "desk")
    expect([found.values_at("plan", "swapped", "drift"), status]).to eq([[1, true, []], 0])
    expect(state).to eq("current")
    started, status = desk("start", "desk", report: true)
    expect([started["loaded"].size, started["failed"], status]).to eq([3, 0, 0])
    report = @desk.reload.report
    expect(report["loaded"].map { |one| one["painted"] }).to all(match(/\A\h{64}\z/))
    expect(Studio::M::DeskPlan.bytes(report["loaded"].first["painted"])[1, 3]).to eq("PNG")
    began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    found, = desk("pull", "desk")
    expect(found.values_at("swapped", "received")).to match([false, be < 2000])
    expect(Process.clock_gettime(Process::CLOCK_MONOTONIC) - began).to be < 10 # 0.5 s is shown by bin/bench
    File.delete(Dir.glob("desk/startup/01*").first)
    File.write("desk/mine.txt", "x")
    expect(desk("status", "desk")).to match([include("drift" => {"missing" => 1, "foreign" => 1}), 1])
    expect(desk("diff", "desk").first["items"].map { |one| one["kind"] }).to contain_exactly("missing", "foreign")
    desk("pull", "desk")
    expect(state).to eq("changed on the desk")
    desk("pull", "desk", "--repair")
    expect([state, Dir.glob("desk/startup/*").size, File.read("desk/mine.txt")]).to eq(["current", 3, "x"])
    @desk.put_in_order(@first.presets.shown.order(:id).limit(2).ids)
    expect(state).to eq("out of date")
    send_to_desk
    expect(desk("pull", "desk").first.values_at("plan", "fetched")).to eq([2, 1])
    expect(desk("back", "desk").first["plans"].map { |one| one["plan"] }).to eq([2, 1])
    expect(desk("back", "desk", "--to", "1").first["plan"]).to eq(1)
    expect([Dir.glob("desk/startup/*").size, desk("pull", "desk").first["swapped"]]).to eq([3, false])
    expect(desk("back", "desk", "--before").last).to eq(0)
    expect(Dir.glob("desk/startup/*")).to eq([])
    send_to_desk
    expect(desk("pull", "desk").first["plan"]).to eq(3)
  end

  it "works on where no server answers, and says what is wrong with a token" do
    send_to_desk
    desk("pull", "desk")
    found, status = desk("pull", "desk", server: "http://127.0.0.1:9")
    expect([found["away"], found["plan"], status]).to match([/No server answers.*What is here stays/, 1, 1])
    _, err, status = fobrel("desk", "pull", "desk", "--server", @running.address, "--token", "fobrel_nonsense")
    expect([err, status]).to match([/sign|token/i, 1])
    _, person = Studio::M::AccessToken.issue(@maren, "person")
    _, err, = fobrel("desk", "pull", "other", "--server", @running.address, "--token", person)
    expect(err).to match(/Name the desk with --desk/)
    by_number = ["--server", @running.address, "--token", person, "--desk", @desk.id.to_s]
    expect(fobrel("desk", "pull", "other", *by_number).last).to eq(0)
    expect(fobrel("desk", "pull").last).to eq(2)
    expect(fobrel("desk", "status", "nowhere")[1]).to match(/Pull first/)
  end

  it "fetches the rest of a file from a byte on" do
    plan = send_to_desk
    path, file = plan.document["files"].max_by { |_, one| one["bytes"] }
    url = URI("#{@running.address}/api/desks/#{@desk.id}/files/#{file["sum"]}")
    ask = ->(range) { Net::HTTP.get_response(url, {"Authorization" => "Bearer #{@token}", **range}) }
    whole = ask[{}]
    rest = ask[{"Range" => "bytes=10-"}]
    expect([whole.code, rest.code, rest.body]).to eq(["200", "206", whole.body[10..]]), path
    expect(rest["Content-Range"]).to eq("bytes 10-#{file["bytes"] - 1}/#{file["bytes"]}")
    expect(ask[{"Range" => "bytes=#{file["bytes"]}-"}].code).to eq("416")
  end
end
