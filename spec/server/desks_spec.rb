# frozen_string_literal: true

require "support/api"

RSpec.describe "desks", :api do
  let(:library) { "/api/libraries/#{@first.id}" }
  let(:presets) { @first.presets.shown.order(:id).to_a }

  before { sign_in("maren") }
  after { FileUtils.rm_rf(Dir.glob("#{Fobrel.var}/desks/*")) }

  def make(name, **more) = call(:post, "#{library}/desks", {name:, **more})

  def lines(*list, part: "startup") = list.map { |preset| {thing: "brush/#{preset.document_id}", part:} }

  def plan(desk, list, **more) = call(:put, "/api/desks/#{desk["id"]}/plan", {lines: list, **more})["desk"]

  def send_to_desk(desk, **how) = call(:post, "/api/desks/#{desk["id"]}/send", how)

  def see(desk) = call(:get, "/api/desks/#{desk["id"]}")

  def folder(desk) = "#{Fobrel.var}/desks/#{desk["folder"]}"

  def titles(desk) = desk["lines"].map { |line| line["title"] }

  it "load what was planned, in order, and the folder is asked what lies there" do
    desk = make("Line desk ä")
    expect(desk.values_at("state", "folder")).to eq(["empty", "line-desk-a-#{@first.id}"])
    plan(
      desk,
      lines(*presets.values_at(2, 0, 1)) + lines(presets[3], part: "shelf"),
      keys: {presets[2].document_id => "5"}
    )
    expect(send_to_desk(desk).values_at("state", "said")).to eq(["current", ""])
    names = presets.values_at(2, 0, 1).each_with_index.map { |one, at| "0#{at + 1} #{one.name}.json" }
    expect(Dir.children("#{folder(desk)}/startup").sort).to eq(names)
    started = call(:post, "/api/desks/#{desk["id"]}/restart", {})
    expect(started["report"]["loaded"].map { |one| one.values_at("name", "ok", "key") })
      .to eq([[presets[2].name, true, "5"], [presets[0].name, true, nil], [presets[1].name, true, nil]])
    # Altered by hand, and behind everybody's back.
    path = "#{folder(desk)}/startup/#{names[0]}"
    File.write(path, File.read(path).sub(/"base": [\d.]+/, '"base": 91'))
    File.delete("#{folder(desk)}/startup/#{names[1]}")
    File.write(
      "#{folder(desk)}/startup/mine.json",
      File.read("#{folder(desk)}/startup/#{names[2]}").sub(presets[1].name, "Mine")
    )
    File.write("#{folder(desk)}/note.txt", "Do not touch")
    found = see(desk)
    expect(found["state"]).to eq("changed on the desk")
    kinds = found["found"].to_h { |one| [one["path"], one["kind"]] }
    expect(kinds).to eq(
      "startup/#{names[0]}" => "altered",
      "startup/#{names[1]}" => "missing",
      "startup/mine.json" => "foreign",
      "note.txt" => "foreign"
    )
    expect(found["found"].find { |one| one["kind"] == "altered" }["words"].join).to match(/91 px/)
    call(:post, "/api/desks/#{desk["id"]}/repair", {paths: ["startup/#{names[1]}"]})
    expect(see(desk)["found"].map { |one| one["kind"] }).to contain_exactly("altered", "foreign", "foreign")
    proposal = call(
      :post,
      "/api/desks/#{desk["id"]}/decisions",
      {path: "startup/#{names[0]}", decision: "propose", sentence: "Broader"}
    )
    expect(Studio::M::Proposal.find(proposal["proposal"]).items.sole.value["tip", "size", "base"]).to eq(91)
    call(:post, "/api/desks/#{desk["id"]}/decisions", {path: "startup/mine.json", decision: "own"})
    call(:post, "/api/desks/#{desk["id"]}/decisions", {path: "note.txt", decision: "leave"})
    3.times { send_to_desk(desk) }
    expect(see(desk)["state"]).to eq("current")
    expect(File.read("#{folder(desk)}/note.txt")).to eq("Do not touch")
    expect(Dir.children("#{folder(desk)}/startup").sort).to eq([*names, "mine.json"])
    expect(Dir.children("#{folder(desk)}/aside")).to eq([names[0]])
  end

  describe "templates" do
    let(:studio) { make("Studio", template: true) }
    let(:project) { make("Project", template: true, parent_id: studio["id"]) }
    let(:desk) { make("Desk", parent_id: project["id"]) }

    before do
      plan(studio, lines(*presets.first(3)), keys: {presets[0].document_id => "1"})
      plan(project, lines(*presets.first(3), presets[3]))
    end

    it "are what desks differ from: added, taken out, moved, on another key, and taken back one by one" do
      seen = see(desk)
      expect([titles(seen), seen["differences"]]).to eq([presets.first(4).map(&:name), 0])
      expect(seen["lines"].map { |one| one["from"] }).to eq(["Studio"] * 3 + ["Project"])
      wanted = lines(*presets.values_at(1, 0, 4, 3))
      own = plan(desk, wanted, keys: {presets[0].document_id => nil, presets[1].document_id => "1"})
      expect(titles(own)).to eq(presets.values_at(1, 0, 4, 3).map(&:name))
      expect(own["lines"].map { |one| one["change"] }).to contain_exactly(nil, "moved", "added", nil)
      expect(own["out"].map { |one| one["title"] }).to eq([presets[2].name])
      expect(own["clashes"]).to eq([])
      # The template changes below it: what is the desk's own stays.
      plan(studio, lines(presets[5], *presets.first(3)))
      expect(titles(see(desk))).to include(presets[5].name, presets[4].name)
      expect(titles(see(desk))).not_to include(presets[2].name)
      back = call(
        :put,
        "/api/desks/#{desk["id"]}/plan",
        {revert: ["brush/#{presets[2].document_id}", "key/#{presets[1].document_id}"]}
      )
      expect(titles(back["desk"])).to include(presets[2].name)
      expect(back["desk"]["lines"].flat_map { |one| one["brushes"] }.filter_map { |one| one["key"] }).to eq([])
    end

    it "say beforehand which desks they change, and how" do
      desk
      plan(make("Apart"), lines(presets[0]))
      wish = {lines: lines(*presets.first(2), presets[6]), keys: {presets[1].document_id => "2"}}
      effects = call(:put, "/api/desks/#{studio["id"]}/plan?plan=true", wish)["effects"]
      expect(effects).to eq(
        [
          {
            "desk" => "Desk",
            "added" => [presets[6].name],
            "gone" => [presets[2].name],
            "moved" => [],
            "keys" => [presets[1].name]
          }
        ]
      )
      expect(titles(see(desk))).to eq(presets.first(4).map(&:name))
    end

    it "begin from no desk, from none below them, and leave what began from them as it is" do
      wrong = call(:put, "/api/desks/#{studio["id"]}", {parent_id: project["id"]})
      expect([status, wrong["error"]]).to match([422, /cannot begin from itself/])
      call(:put, "/api/desks/#{project["id"]}", {parent_id: desk["id"]})
      expect(status).to eq(404)
      before = titles(see(desk))
      call(:delete, "/api/desks/#{project["id"]}")
      expect([titles(see(desk)), see(desk)["above"].map { |one| one["name"] }]).to eq([before, ["Studio"]])
    end

    it "are undone like any deed" do
      call(:put, "/api/desks/#{studio["id"]}/plan", {lines: []}).then { |got|
        expect(titles(see(desk))).to eq([presets[3].name])
        call(:post, "/api/history/#{got["entry"]["id"]}/undo", {})
      }
      expect(titles(see(desk))).to eq(presets.first(4).map(&:name))
      expect(Studio::M::Desk.find(desk["id"]).items.count).to eq(4)
    end
  end

  it "take whole sets and bundles, at a release or at the newest, also of another library" do
    set = @first.brush_sets.create!(name: "Kit").tap { |one| one.put_in_order(presets.values_at(3, 1).map(&:id)) }
    bundle = @second.bundles.create!(name: "Inks", licence: "CC0-1.0", author: "Maren Oake")
    taken = call(
      :post,
      "/api/libraries/#{@second.id}/taken",
      {preset_ids: presets.values_at(5, 1).map(&:id)}
    )["preset_ids"]
    bundle.put_in_order(taken)
    desk = make("Desk")
    plan(desk, [{thing: "bundle/#{bundle.id}", part: "startup"}])
    expect([status, last_response.body]).to match([422, /has no release yet/])
    first = Fobrel::Actions::ReleaseBundle.call(
      bundle:,
      person: Studio::M::Person.find_by!(login: "maren"),
      number: "1.0.0",
      notes: ""
    )
    first = bundle.releases.order(:id).last if first.nil? || !first.respond_to?(:number)
    seen = plan(
      desk,
      [
        {thing: "set/#{set.id}", part: "startup"},
        {thing: "bundle/#{bundle.id}", part: "startup", at: bundle.releases.last.id}
      ]
    )
    expect(titles(seen)).to eq(["set “Kit”", "bundle “Inks” of Second unit"])
    expect(
      seen["lines"].map { |one|
        one["brushes"].map { |brush|
          brush["twice"]
        }
      }
    ).to eq([[false, false], [false, true]])
    expect(send_to_desk(desk)["state"]).to eq("current")
    # What the set gains comes along; the bundle stays where it is.
    set.put_in_order(presets.values_at(3, 1, 2).map(&:id))
    taken_one = Studio::M::Preset.find(taken.first)
    value = taken_one.current_version.value.with("stroke", "spacing" => 0.5)
    Fobrel::Actions::AddVersion.call(preset: taken_one, value:, person: Studio::M::Person.first)
    Fobrel::Actions::ReleaseBundle.call(bundle: bundle.reload, person: Studio::M::Person.first, number: nil, notes: "")
    seen = see(desk)
    expect([seen["state"], seen["lines"].last["newest"]]).to eq(["out of date", bundle.releases.order(:id).last.number])
    expect(send_to_desk(desk)["state"]).to eq("current")
    expect(Dir.children("#{folder(desk)}/startup").size).to eq(4)
    expect(first).not_to be_nil
  end

  it "have keys that clash with nobody, which is said before anything is sent" do
    call(:put, "#{library}/reserved-keys", {keys: {"5" => "turn"}})
    desk = make("Desk")
    one, two, three = presets.first(3).map(&:document_id)
    seen = plan(desk, lines(*presets.first(3)), keys: {one => "5", two => "4", three => "4"})
    expect(seen["clashes"].map { |clash| clash.values_at("key", "free") }).to contain_exactly(%w[5 6], %w[4 3])
    expect(send_to_desk(desk)["error"]).to match(/Nothing was sent to Desk/)
    expect(see(desk)["plans"]).to eq([])
    plan(desk, lines(*presets.first(3)), keys: {one => "6", three => "3"})
    expect(send_to_desk(desk)["state"]).to eq("current")
    expect(call(:get, "/api/desks/#{desk["id"]}/card.pdf")).to start_with("%PDF")
    said = JSON.parse(File.read("#{folder(desk)}/start.json"))
    expect(said["startup"].map { |line| line["key"] }).to eq(%w[6 4 3])
    expect(call(:get, "#{library}/desk-table")["desks"].sole["cells"].map { |cell| cell["key"] }).to eq(%w[6 4 3])
  end

  it "go back to any plan, and to what was there before, and keep every plan" do
    desk = make("Desk")
    FileUtils.mkdir_p("#{folder(desk)}/startup")
    File.write(
      "#{folder(desk)}/startup/stock.json",
      JSON.generate(presets[7].current_version.document.merge("name" => "Stock"))
    )
    plan(desk, lines(presets[0]))
    send_to_desk(desk, why: "First")
    plan(desk, lines(presets[1]))
    send_to_desk(desk)
    call(:post, "/api/desks/#{desk["id"]}/back", {plan: 1, why: "The shot of last spring"})
    expect(Dir.children("#{folder(desk)}/startup").sort).to eq(["01 #{presets[0].name}.json", "stock.json"])
    seen = see(desk)
    expect(seen["plans"].map { |one| one.values_at("number", "why") })
      .to eq([[3, "The shot of last spring"], [2, ""], [1, "First"]])
    expect(seen.values_at("state", "said")).to eq(["out of date", "its plan was changed"])
    File.delete("#{folder(desk)}/startup/stock.json")
    call(:post, "/api/desks/#{desk["id"]}/back", {plan: nil})
    expect(Dir.children("#{folder(desk)}/startup")).to eq(["stock.json"])
    call(:post, "/api/desks/#{desk["id"]}/back", {plan: 99})
    expect(status).to eq(404)
  end

  it "are named once, taken out of use and removed; a folder stays" do
    desk = make("Desk")
    expect([make("desk")["error"], status]).to match([/a desk called “desk” already/, 422])
    plan(desk, lines(presets[0]))
    send_to_desk(desk)
    call(:delete, "/api/desks/#{desk["id"]}")
    expect(status).to eq(422)
    aside = call(:put, "/api/desks/#{desk["id"]}", {aside: true, room: "Upstairs", memory_limit: 40, person_id: nil})
    expect(aside.values_at("state", "room", "memory_limit")).to eq(["out of use", "Upstairs", 40])
    expect(send_to_desk(desk)["error"]).to match(/is out of use/)
    told = call(:delete, "/api/desks/#{desk["id"]}")["entry"]["summary"]
    expect([told, File.exist?("#{folder(desk)}/startup")]).to match([/removed.*stays as it is/, true])
    expect(make("Desk")["folder"]).to eq(desk["folder"])
  end

  it "cost what the estimate says, and a start is learned from" do
    desk = make("Desk")
    seen = plan(desk, lines(*presets))
    send_to_desk(desk)
    3.times { call(:post, "/api/desks/#{desk["id"]}/restart", {}) }
    started = see(desk)
    measured = started["report"]["memory"]
    expect(measured).to be > 10_000
    expect(seen["load"]["memory"].fdiv(measured)).to be_between(0.75, 1.25)
    expect(started["load"]["ms"].fdiv(started["report"]["ms"])).to be_between(0.4, 2.5)
    expect(started["load"]["starts"]).to eq(3)
    expect(started["report"]["loaded"].map { |one| one["apart"] }.uniq).to eq([0])
  end

  it "write a plan that never reached its folder, by themselves, and tell leads and whose it is" do
    desk = make("Desk")
    tove = Studio::M::Person.find_by!(login: "tove")
    call(:put, "/api/desks/#{desk["id"]}", {person_id: tove.id})
    plan(desk, lines(presets[0]))
    Fobrel::Actions::SendToDesk.call(desk: Studio::M::Desk.find(desk["id"]), person: tove)
    expect(see(desk).values_at("state", "said")).to eq(["out of date", "nothing is in its folder"])
    Fobrel::Jobs::WatchedDesks.look
    expect(see(desk)["state"]).to eq("current")
    File.delete(Dir.glob("#{folder(desk)}/startup/*").first)
    Fobrel::Jobs::WatchedDesks.look
    expect(Studio::M::Notice.where(kind: "desk").map { |one| [one.person.login, one.text] })
      .to contain_exactly(["maren", "Desk was changed: 1 missing"], ["tove", "Desk was changed: 1 missing"])
    Fobrel::Jobs::WatchedDesks.look
    expect(Studio::M::Notice.where(kind: "desk").count).to eq(2)
    expect(see(desk)["events"].map { |one| one["kind"] }).to eq(["changed on the desk", "current", "sent"])
  end

  it "are sent to several at once, each told by itself" do
    one, two, three = %w[One Two Three].map { |name| make(name) }
    [one, two].each { |desk| plan(desk, lines(presets[0])) }
    told = call(:post, "#{library}/sends", {desk_ids: [one, two, three].map { |desk| desk["id"] }})["told"]
    expect(told.map { |line| line.values_at("desk", "plan") }).to eq([["One", 1], ["Two", 1], ["Three", nil]])
    expect(told.last["problem"]).to match(/start-up plan of Three is empty/)
    expect(call(:get, "#{library}/desk-table")["sentence"]).to eq("2 of 2 desks are current.")
  end

  it "go back in one go: to the plan before, to a moment, to before Fobrel; told beforehand, each told by itself" do
    one, two, never = %w[One Two Never].map { |name| make(name) }
    ids = [one, two, never].map { |desk| desk["id"] }
    startup = ->(desk) {
      Dir.glob("*.json", base: "#{folder(desk)}/startup").sort.map { |name|
        name[/\d+ (.*)\.json/, 1]
      }
    }
    plan(one, lines(presets[0])) && send_to_desk(one)
    plan(two, lines(presets[1])) && send_to_desk(two)
    moment = Time.now.utc.iso8601(6)
    plan(one, lines(presets[2])) && send_to_desk(one)
    ask = ->(to, look: nil, **more) {
      path = "#{library}/sends#{"?look=true" if look}"
      call(:post, path, {desk_ids: ids, why: "Too dark", back: {to:, **more}})["told"]
    }
    told = ask["previous", look: true]
    expect(told.map { |line| line.values_at("plan", "before", "problem") })
      .to match([[1, false, nil], [nil, nil, /Two had no plan before/], [nil, nil, /Nothing was sent to Never/]])
    expect([startup[one], startup[two]]).to eq([[presets[2].name], [presets[1].name]])
    ask["moment", at: moment]
    expect([startup[one], startup[two]]).to eq([[presets[0].name], [presets[1].name]])
    expect(ask["moment", look: true, at: moment].map { |line| line["problem"] }).to include("Two has that now.")
    told = ask["before"]
    expect(told.map { |line| line["plan"] }).to eq([4, 2, nil])
    expect([startup[one], startup[two]]).to eq([[], []])
    expect(ask["before", look: true].map { |line| line["problem"] }.first).to eq("One has that now.")
    expect(see(one)["plans"].first.values_at("why", "before")).to eq(["Too dark", true])
    call(:post, "#{library}/sends", {desk_ids: ids, back: {to: "moment"}})
    expect(status).to eq(422)
    expect(call(:post, "#{library}/sends", {desk_ids: ids, back: {to: "moment", at: "soon"}})["error"])
      .to match(/“soon” is not a moment/)
  end

  it "know the names of stock brushes that may be replaced, of those one may look at" do
    [["Originals", "maren", -1], ["Others'", "tove", -2]].each do |name, login, place|
      person = Studio::M::Person.find_by!(login:)
      stock = Studio::M::Library.create!(name:, kind: "stock")
      stock.memberships.create!(person:, role: "lead")
      Fobrel::Demo::Studio.import_brushes(stock, person, [Studio.drawn[place]])
    end
    expect(call(:get, "#{library}/stock-names")["names"]).to eq([Studio.drawn[-1].name])
  end

  it "bring what two planned at once together" do
    desk = make("Desk")
    seen = plan(desk, lines(*presets.first(3)))["lines"].map { |one| one.slice("thing", "part") }
    plan(desk, seen.first(2), before: seen)
    both = plan(desk, [seen[1], seen[0], seen[2]], before: seen)
    expect(titles(both)).to eq([presets[1].name, presets[0].name])
  end

  it "show no more of what a link leads to than that there is one, to anybody" do
    outside = Dir.mktmpdir
    File.write("#{outside}/secret.json", "a private thing", perm: 0o600)
    desk = @first.desks.create!(name: "Linked", folder: "desk-linked")
    desk.put_in_order(@first.presets.in_order.ids.first(2))
    call(:post, "/api/desks/#{desk.id}/send", {})
    FileUtils.rm_f("#{desk.path}/shelf")
    File.symlink(outside, "#{desk.path}/shelf")
    File.symlink("/usr/share", "#{desk.path}/more")
    sign_in("ilse")
    began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    seen = call(:get, "/api/desks/#{desk.id}")
    expect(Process.clock_gettime(Process::CLOCK_MONOTONIC) - began).to be < 5
    expect(JSON.generate(seen)).not_to match(/secret|private thing/)
    sign_in("maren")
    call(:post, "/api/desks/#{desk.id}/send", {})
    expect(Dir.children(outside)).to eq(["secret.json"])
    copies = Dir.glob("#{desk.path}/**/*", File::FNM_DOTMATCH).select { |at|
      File.lstat(at).file? && File.read(at).include?("a private thing")
    }
    expect(copies).to eq([])
  ensure
    FileUtils.rm_rf([outside, desk&.path].compact)
  end
end
