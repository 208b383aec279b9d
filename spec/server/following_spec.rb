# frozen_string_literal: true

require "support/api"

RSpec.describe "following", :api do
  let(:maren) { Studio::M::Person.find_by!(login: "maren") }
  let(:second) { "/api/libraries/#{@second.id}" }
  let(:bundle) do
    @first.bundles.create!(name: "Storm kit", licence: "CC-BY-4.0", author: "Maren Oake").tap { |one|
      one.put_in_order(@first.presets.shown.order(:id).limit(4).ids)
    }
  end

  def release(number = nil)
    Fobrel::Actions::ReleaseBundle.call(bundle: bundle.reload, person: maren, number:, notes: "News")
  end

  # The follow that was begun, or the answer where none was.
  def follow(**more)
    answer = call(:post, "#{second}/follows", {bundle_id: bundle.id, **more})
    answer["follows"]&.first || answer
  end

  def update(id, **wish)
    asked = call(:get, "/api/follows/#{id}/update")
    call(:post, "/api/follows/#{id}/update", {release_id: asked["release"]["id"], **wish})
  end

  def rows(id) = call(:get, "/api/follows/#{id}/update")["rows"].to_h { |row| [row["name"], row] }

  # The next version of a brush, with settings of its mark changed.
  def tune(preset, **mark)
    preset.reload
    value = preset.current_version.value
    changed = value.with("tip", value.to_h["tip"].merge(mark.transform_keys(&:to_s)))
    Fobrel::Actions::AddVersion.call(preset:, value: changed, person: maren)
  end

  def at(library, name) = library.presets.find_by!(name:).reload.current_version.value

  def names = bundle.presets_in_order.map(&:name)

  before { sign_in("maren") }

  it "brings a bundle's brushes at its newest release, and tells of the next one" do
    release("1.0.0")
    made = follow
    expect([status, made.values_at("bundle", "brushes", "behind")]).to eq([201, ["Storm kit", 4, false]])
    expect(@second.presets.order(:name).pluck(:name)).to eq(names.sort)
    expect(follow["error"]).to match(/follows that bundle already/)
    tune(bundle.presets_in_order.first, angle: 20)
    release
    seen = call(:get, "#{second}/follows")["follows"].sole
    expect(seen.values_at("behind").push(seen["newest"]["number"])).to eq([true, "2.0.0"])
    notice = call(:get, "/api/inbox")["notices"].first
    expect(notice.values_at("kind", "path")).to eq(["release", "/#{@second.id}/sharing/following?follow=#{made["id"]}"])
    call(:put, "/api/follows/#{made["id"]}", {stays: true})
    expect(call(:get, "#{second}/follows")["follows"].sole["behind"]).to be(false)
  end

  it "follows a whole library in one go, all of it or nothing, and tells followers of a withdrawal" do
    release("1.0.0")
    other = @first.bundles.create!(name: "Ink kit", licence: "CC0-1.0", author: "Maren Oake")
    other.put_in_order(@first.presets.shown.order(:id).offset(3).limit(3).ids) # one of them stands in both
    Fobrel::Actions::ReleaseBundle.call(bundle: other, person: maren, number: nil, notes: "")
    @first.bundles.create!(name: "Not out yet", author: "Maren Oake")
    proposed = call(:get, "#{second}/follows")["proposed"]
    expect(
      proposed.map { |one|
        one.values_at("name", "library_id")
      }
    ).to eq([["Ink kit", @first.id], ["Storm kit", @first.id]])
    made = call(:post, "#{second}/follows/whole", {library_id: @first.id})
    expect([status, made["follows"].map { |one| one.values_at("bundle", "brushes") }])
      .to eq([201, [["Ink kit", 3], ["Storm kit", 4]]])
    expect(@second.presets.shown.count).to eq(6)
    again = call(:post, "#{second}/follows/whole", {library_id: @first.id})
    expect([status, again["error"]]).to match([422, /nothing of that library to follow/])
    held = call(:get, "/api/libraries/#{@first.id}/bundles")["bundles"].find { |one| one["name"] == "Storm kit" }
    expect(held["releases"].sole["held_by"]).to eq(["Second unit"])
    call(:put, "/api/releases/#{held["releases"].sole["id"]}/withdraw", {reason: "Too loud"})
    expect(call(:get, "/api/inbox")["notices"].first["text"])
      .to eq("“Storm kit” 1.0.0, which “Second unit” has, was withdrawn: Too loud")
  end

  it "tells all of forty libraries of a release" do
    release("1.0.0")
    people = Array.new(40) do |n|
      Studio::M::Library.create!(name: "Unit #{n}").tap { |library|
        library.memberships.create!(person: maren, role: "lead")
        library.follows.create!(bundle:, person: maren, release: bundle.releases.last)
        Studio::M::FollowRight.create!(publisher: @first, library:, state: "granted")
      }
    end
    before = Studio::M::Notice.count
    tune(bundle.presets_in_order.first, angle: 20)
    release
    expect(Studio::M::Notice.count - before).to eq(people.size)
    expect(call(:get, "/api/inbox")["unseen"]).to eq(people.size)
  end

  it "keeps own changes by bringing both together, and lets somebody decide where both changed the same" do
    release("1.0.0")
    id = follow["id"]
    one, two, three, four = bundle.presets_in_order
    tune(one, angle: 20)
    tune(two, angle: 30)
    tune(@second.presets.find_by!(name: two.name), hard_pixels: true)
    tune(three, angle: 40)
    tune(@second.presets.find_by!(name: three.name), angle: 50)
    release("2.0.0")
    found = rows(id)
    expect(found.values_at(one.name, two.name, three.name, four.name).map { |row| row["kind"] }).to eq(
      %w[changed merged conflict same]
    )
    conflict = found[three.name]["conflicts"].sole
    expect(conflict.values_at("title", "words")).to match(["Angle", include("mine" => "50°", "theirs" => "40°")])
    expect(update(id)["error"]).to match(/Both sides changed the same of “#{three.name}”. Nothing was taken/)
    entry = update(id, choices: {three.document_id => {conflict["key"] => "theirs"}})["entry"]
    expect(entry["summary"]).to match(/“Storm kit” 2.0.0 taken from .*1 changed, 2 brought together with own changes/)
    expect([at(@second, two.name)["tip", "hard_pixels"], at(@second, two.name)["tip", "angle"]]).to eq([true, 30])
    expect([at(@second, one.name), at(@second, three.name)].map { |value| value["tip", "angle"] }).to eq([20, 40])
    expect(rows(id).values.map { |row| row["kind"] }.uniq).to eq(["same"])
    png = call(:get, "/api/follows/#{id}/strips/#{one.document_id}.png?release=#{bundle.releases.last.id}&side=base")
    expect(png.b[0, 4]).to eq("\x89PNG".b)
  end

  it "takes brush by brush, keeps what is used here, and goes back in one step" do
    release("1.0.0")
    made = follow
    id = made["id"]
    one, two, three, four = bundle.presets_in_order
    set = @second.brush_sets.create!(name: "Mine")
    set.put_in_order([@second.presets.find_by!(name: three.name).id])
    was = at(@first, two.name)["tip", "angle"]
    tune(one, angle: 20)
    tune(two, angle: 30)
    bundle.put_in_order([one.id, two.id])
    release("2.0.0")
    expect(rows(id).transform_values { |row| row["kind"] }).to eq(
      {one.name => "changed", two.name => "changed", three.name => "stays", four.name => "gone"}
    )
    expect(rows(id)[three.name]["why"]).to eq("it is used here (set Mine)")
    update(id, only: [one.document_id])
    expect([at(@second, one.name), at(@second, two.name)].map { |value| value["tip", "angle"] }).to eq([20, was])
    update(id)
    expect(at(@second, two.name)["tip", "angle"]).to eq(30)
    expect(@second.presets.hidden.pluck(:name)).to eq([four.name])
    earlier = call(:get, "#{second}/follows")["follows"].sole["earlier"]
    expect(earlier["number"]).to eq("1.0.0")
    call(:post, "/api/follows/#{id}/update", {release_id: earlier["id"]})
    expect([at(@second, one.name), at(@second, two.name)].map { |value| value["tip", "angle"] }).to eq([0, was])
  end

  it "is undone like any deed, and lets go without taking the brushes along" do
    release("1.0.0")
    id = follow["id"]
    one = bundle.presets_in_order.first
    tune(one, angle: 20)
    release
    entry = update(id)["entry"]
    call(:post, "/api/history/#{entry["id"]}/undo")
    expect(at(@second, one.name)["tip", "angle"]).to eq(0)
    call(:delete, "/api/follows/#{id}")
    expect([@second.presets.shown.count, @second.follows.count]).to eq([4, 0])
    gone = call(:get, "#{second}/history?kind=follow")["entries"].first
    expect([gone["summary"], gone["undoable"]]).to match([/followed no more; its brushes stay/, true])
    call(:post, "/api/history/#{gone["id"]}/undo")
    expect(call(:get, "#{second}/follows")["follows"].sole["at"]["number"]).to eq("1.0.0")
  end

  it "is where it was after an undo: the next release is held against the same ground" do
    release
    made = follow
    one, two, = bundle.presets_in_order
    was = at(@second, one.name)["tip", "angle"]
    tune(one, angle: 20)
    tune(two, angle: 30)
    release
    entry = update(made["id"], only: [one.document_id])["entry"]
    expect(call(:get, "#{second}/follows")["follows"].sole.values_at("behind")).to eq([true])
    last = update(made["id"])["entry"]
    expect(call(:get, "#{second}/follows")["follows"].sole["at"]["number"]).to eq("2.0.0")
    [last, entry].each { |deed| expect(call(:post, "/api/history/#{deed["id"]}/undo")["kept"]).to eq([]) }
    expect(at(@second, one.name)["tip", "angle"]).to eq(was)
    seen = call(:get, "#{second}/follows")["follows"].sole
    expect([seen["at"]["number"], seen["behind"]]).to eq(["1.0.0", true])
    expect(rows(made["id"]).values_at(one.name, two.name).map { |row| [row["kind"], row["mine"]] }).to eq(
      [["changed", []], ["changed", []]]
    )
    first = Studio::M::HistoryEntry.where(library: @second, kind: "follow").order(:id).first
    # What has newer versions stays, as with any import; it is told.
    kept = call(:post, "/api/history/#{first.id}/undo")["kept"]
    expect(kept).to contain_exactly(/#{one.name}.*it stays/, /#{two.name}.*it stays/)
    expect([@second.presets.order(:name).pluck(:name), @second.follows.count]).to eq([[one.name, two.name].sort, 0])
  end

  it "is for those who see the other library, and for leads of this one" do
    release("1.0.0")
    made = follow
    sign_in("tove")
    call(:post, "/api/follows/#{made["id"]}/update", {release_id: bundle.releases.last.id})
    expect(status).to eq(200).or eq(422) # a lead of the second
    stranger = Studio::M::Library.create!(name: "Far")
    stranger.memberships.create!(person: Studio::M::Person.find_by!(login: "ilse"), role: "lead")
    sign_in("ilse")
    call(:get, "/api/follows/#{made["id"]}/update")
    expect(status).to eq(404)
    secret = Studio::M::Library.create!(name: "Secret").bundles.create!(name: "X")
    call(:post, "/api/libraries/#{stranger.id}/follows", {bundle_id: secret.id})
    expect(status).to eq(404)
  end

  describe "walking over releases" do
    let(:pool) { @first.presets.shown.order(:id).to_a }
    let(:tove) { Studio::M::Person.find_by!(login: "tove") }
    let(:followed) { Studio::M::Follow.find_by!(bundle:) }

    def hold(*indexes)
      bundle.put_in_order(indexes.map { |index| pool[index].id })
      release
    end

    def take(release, **choices)
      Fobrel::Actions::TakeRelease.call(follow: followed.reload, person: maren, release:, choices:)
    end

    def undo(entry) = Fobrel::Actions::Undo.call(entry: entry.reload)

    def shown = @second.presets.shown.pluck(:document_id).sort

    def documents(*indexes) = indexes.map { |index| pool[index].document_id }.sort

    it "undoes a release that hid brushes, also after an earlier one was taken again" do
      one, two = hold(*0..7), hold(*0..4)
      follow(release_id: one.id)
      entry = take(two)
      expect(entry.summary).to end_with(": 3 hidden")
      expect([undo(entry), shown]).to eq([[], documents(*0..7)])
      entry = take(two)
      take(one)
      expect(undo(entry)).to all(match(/stay|since/))
      expect([shown, followed.reload.release]).to eq([documents(*0..7), one])
    end

    it "brings back what a release hid once another holds it again, as that one has it" do
      one, two = hold(*0..4), hold(*2..7)
      follow(release_id: two.id)
      take(one)
      expect(shown).to eq(documents(*0..4))
      tune(pool[7], angle: 33)
      three = hold(*2..7)
      expect(take(three).summary).to match(/1 changed, 2 hidden, 3 restored/)
      expect([shown, at(@second, pool[7].name)["tip", "angle"]]).to eq([documents(*2..7), 33])
      expect(call(:get, "#{second}/follows")["follows"].sole["behind"]).to be(false)
    end

    it "leaves hidden what somebody hid, says so, and brings it back where that is decided" do
      one, two = hold(*0..3), hold(*0..2)
      follow(release_id: one.id)
      Fobrel::Actions::HidePresets.call(
        library: @second,
        person: maren,
        ids: [@second.presets.find_by!(name: pool[0].name).id]
      )
      take(two)
      row = Fobrel::Actions::TakeRelease.new(follow: followed, person: maren, release: one).rows.first
      expect([row.kind, row.hidden]).to eq(%w[same stays])
      expect(take(one).summary).to match(/1 restored, 1 left hidden/)
      expect(shown).to eq(documents(1, 2, 3))
      take(one, pool[0].document_id => {"hidden" => "theirs"})
      expect(shown).to eq(documents(0, 1, 2, 3))
    end

    5.times do |seed|
      it "ends with exactly what the release holds, with what was changed here kept (seed #{seed})" do
        chance = Random.new(seed)
        releases = Array.new(4) do
          tune(pool.sample(random: chance), angle: chance.rand(1..170))
          hold(*(0..7).to_a.sample(chance.rand(2..8), random: chance))
        end
        follow(release_id: releases.first.id)
        own = {}
        8.times do |step|
          here = @second.presets.shown.to_a.sample(random: chance)
          # A change that no release makes: its place in the release stays, its setting is this library's.
          if step.odd? && here
            tune(here, roundness: own[here.document_id] = chance.rand(0.1..0.9).round(2))
          end
          target = releases.sample(random: chance)
          take(target)
          held = target.items.map { |item| item["id"] }
          expect(shown - own.keys).to eq((held - own.keys).sort)
          expect(held - shown).to eq([])
          value = Fobrel::Core::Package::Archive.open(StringIO.new(target.package), name: "x") { |files|
            held.to_h { |id| [id, Fobrel::Core::Preset::Preset.restore(JSON.parse(files["data/presets/#{id}.json"]))] }
          }
          @second.presets.shown.where(document_id: held).each do |preset|
            expected = value[preset.document_id]
            own_roundness = own[preset.document_id]
            now = preset.reload.current_version.value
            expect(now["tip", "angle"]).to eq(expected["tip", "angle"])
            expect(now["tip", "roundness"]).to eq(own_roundness || expected["tip", "roundness"])
          end
        end
      end
    end
  end

  describe "the right to follow" do
    let(:tove) { Studio::M::Person.find_by!(login: "tove") }

    def rights = call(:get, "/api/libraries/#{@first.id}/follows")["rights"]

    def decide(state, **more)
      call(:put, "/api/libraries/#{@first.id}/follow-rights/#{rights.sole["id"]}", {state:, **more})
    end

    def notices(login) = Studio::M::Person.find_by!(login:).notices.order(:id).pluck(:text)

    it "is asked for by whoever does not lead the publisher, granted there, and only then used" do
      release
      sign_in("tove")
      answer = call(:post, "#{second}/follows", {bundle_id: bundle.id})
      expect([answer["asked"], answer["follows"], @second.presets.count]).to eq([true, [], 0])
      call(:post, "#{second}/follows", {bundle_id: bundle.id}) # asking twice tells nobody twice
      expect(notices("maren").grep(/Tove Lindgaard asks whether “Second unit”/).size).to eq(1)
      call(:put, "/api/libraries/#{@first.id}/follow-rights/#{Studio::M::FollowRight.sole.id}", {state: "granted"})
      expect(status).to eq(403)
      sign_in("maren")
      decide("granted")
      expect(notices("tove")).to include(/“Second unit” may now follow/)
      sign_in("tove")
      expect(follow["brushes"]).to eq(4)
    end

    it "ends by the publisher's word: what was taken stays, nothing new comes, both are told" do
      release
      made = follow
      decide("ended", reason: "The film is finished")
      expect(notices("tove").last).to match(/“#{@first.name}” no longer lets “Second unit” follow .*: The film/)
      tune(bundle.presets_in_order.first, angle: 20)
      told = Studio::M::Notice.count
      release
      expect(Studio::M::Notice.count).to eq(told)
      seen = call(:get, "#{second}/follows")["follows"].sole
      expect([seen["behind"], seen["ended"]]).to match([false, /no longer lets/])
      expect(update(made["id"])["error"]).to match(/no longer lets .* What was taken before stays here/)
      expect(@second.presets.shown.count).to eq(4)
      expect(call(:get, "/api/libraries/#{@first.id}/consistency")["places"]).to eq([])
      decide("granted")
      expect(update(made["id"])["entry"]["summary"]).to match(/1 changed/)
    end

    it "ends when no lead of the following library may see the publisher any more" do
      release
      made = follow
      @second.memberships.find_by!(person: maren).update!(role: "guest")
      call(:delete, "/api/libraries/#{@first.id}/people/#{tove.id}", {})
      expect(rights.sole["state"]).to eq("ended")
      expect(notices("tove").last).to match(/no lead of it is a member here any more/)
      expect(call(:get, "#{second}/follows")["follows"].find { |one| one["id"] == made["id"] }["ended"]).not_to be_nil
    end

    it "does not reach a withdrawn release; who has it sees why" do
      old = release("1.0.0")
      made = follow
      Fobrel::Actions::WithdrawRelease.call(release: old, person: maren, reason: "Too loud")
      expect(call(:get, "#{second}/follows")["follows"].sole["withdrawn"]).to eq("Too loud")
      expect(
        call(
          :post,
          "/api/follows/#{made["id"]}/update",
          {release_id: old.id}
        )["error"]
      ).to match(/withdrawn: Too loud/)
      call(:delete, "/api/follows/#{made["id"]}")
      expect(follow(release_id: old.id)["error"]).to match(/was withdrawn: Too loud/)
    end
  end

  # What a merge must hold, over random presets and changes.
  it "loses no change, whatever the order of updates, where nothing conflicts" do
    chance = Random.new(15)
    merge = Fobrel::Core::Preset::Merge
    paths = [
      %w[tip angle],
      %w[tip roundness],
      %w[tip hard_pixels],
      %w[stroke spacing],
      %w[stroke marks_per_step],
      %w[paint flow]
    ]
    values = {
      "angle" => -> { chance.rand(-180..180) },
      "roundness" => -> { chance.rand(0.1..1.0).round(3) },
      "hard_pixels" => -> { true },
      "spacing" => -> { chance.rand(0.02..2.0).round(3) },
      "marks_per_step" => -> { chance.rand(2..8) },
      "flow" => -> { chance.rand(0.01..0.9).round(3) }
    }
    change = lambda do |value, list|
      list.inject(value) { |now, (group, key)|
        now.with(group, (now.to_h[group] || {}).merge(key => values[key].call))
      }
    end
    40.times do
      base = @first.presets.shown.first.current_version.value
      mine, first, second = paths.shuffle(random: chance).each_slice(2).to_a
      own = change[base, mine]
      one = change[base, first]
      two = change[one, second]
      # Own layer, then update by update; both updates at once; the layer laid on at the end.
      step = merge.new(base: one, mine: merge.new(base:, mine: own, theirs: one).preset, theirs: two).preset
      once = merge.new(base:, mine: own, theirs: two).preset
      layer = merge.new(base:, mine: two, theirs: own).preset
      expect([step.alike?(once), once.alike?(layer)]).to eq([true, true])
      mine.each { |path| expect(once[*path]).to eq(own[*path]) }
      (first + second).each { |path| expect(once[*path]).to eq(two[*path]) }
    end
  end

  describe "a lock file" do
    let(:first) { "/api/libraries/#{@first.id}" }

    it "says what a library stands on, what differs since, and brings it back" do
      release
      follow
      lock = call(:get, "#{second}/lock")
      expect(lock["follows"].sole.values_at("library", "bundle", "release")).to eq([@first.name, "Storm kit", "1.0.0"])
      expect(lock["brushes"].size).to eq(4)
      one, two = @second.presets.order(:name).first(2)
      before = one.fingerprint
      tune(one, angle: 77)
      two.update!(hidden_at: Time.current)
      asked = call(:post, "#{second}/lock?plan=true", JSON.generate(lock))
      expect(asked["differences"].map { |row| row.values_at("kind", "name") }).to eq(
        [["other", one.name], ["missing", two.name]]
      )
      expect(asked["back"]).to eq(0)
      done = call(:post, "#{second}/lock", JSON.generate(lock))
      expect(done.values_at("differences", "back")).to eq([[], 2])
      expect([one.reload.fingerprint, two.reload.hidden_at]).to eq([before, nil])
      call(:post, "/api/history/#{done["entry"]["id"]}/undo")
      expect([one.reload.fingerprint == before, two.reload.hidden_at.nil?]).to eq([false, false])
    end

    it "is refused where it is none, and goes back by a lead only" do
      expect(call(:post, "#{first}/lock", "no lock")["error"]).to match(/not JSON/)
      lock = JSON.generate(call(:get, "#{first}/lock"))
      sign_in("tove")
      call(:post, "#{first}/lock", lock)
      expect(status).to eq(403)
    end
  end

  it "says where brushes are used, and reminds those who are behind" do
    release
    made = follow
    one, two, three, = bundle.presets_in_order
    @first.brush_sets.create!(name: "Rain").put_in_order([one.id])
    unused = @first.presets.shown.where.not(id: bundle.preset_ids_in_order).first
    uses = call(:post, "/api/libraries/#{@first.id}/uses", {preset_ids: [one.id, three.id, unused.id]})["uses"]
    expect(uses.to_h { |row| [row["name"], row["places"]] }).to eq(
      {
        one.name => ["bundle Storm kit", "set Rain", "followed by Second unit"],
        three.name => ["bundle Storm kit", "followed by Second unit"]
      }
    )
    remind = -> { call(:post, "/api/libraries/#{@first.id}/consistency/reminders")["told"] }
    expect(remind.call).to eq([])
    tune(two, angle: 12)
    release
    expect(remind.call).to eq(["Second unit"])
    tove = Studio::M::Person.find_by!(login: "tove")
    expect(tove.notices.last.text).to eq("Maren Oake asks “Second unit” to take “Storm kit” 2.0.0")
    call(:put, "/api/follows/#{made["id"]}", {stays: true})
    expect(remind.call).to eq([])
  end

  it "finds a brush by what it is for, on which ground and at which size" do
    preset = @first.presets.shown.first
    about = {"purpose" => "Far rain over a finished sky", "ground" => "mid grey", "sizes" => "20 to 60 px"}
    value = preset.current_version.value
    changed = value.with("about", value.to_h["about"].merge(about))
    Fobrel::Actions::AddVersion.call(preset:, value: changed, person: maren)
    expect(changed.fingerprint).to eq(value.fingerprint)
    found = call(:get, "/api/libraries/#{@first.id}/brushes?q=#{CGI.escape("finished sky")}")["presets"]
    expect(found.map { |row| row["id"] }).to eq([preset.id])
    expect(Fobrel::Proofs::Sheet.new([preset.reload], title: "One").pdf).to start_with("%PDF")
  end

  it "tells in one table and one sentence who has what" do
    release("1.0.0")
    id = follow["id"]
    one, two, three, = bundle.presets_in_order
    desk = @first.desks.create!(name: "Desk", folder: "desk-f")
    desk.put_in_order([one.id, two.id])
    desk.update!(sent: desk.planned, sent_at: Time.current)
    tune(one, angle: 20)
    tune(@second.presets.find_by!(name: two.name), angle: 9)
    found = call(:get, "/api/libraries/#{@first.id}/consistency?bundle=#{bundle.id}")
    cells = found["cells"].to_h { |brush, place, state| [[brush, place], state] }
    follower, desk = "f#{id}", "s#{desk.id}"
    expect([one, two, three].map { |preset| cells[[preset.id, follower]] }).to eq(%w[behind own same])
    expect([one, two, three].map { |preset| cells[[preset.id, desk]] }).to eq(["behind", "same", nil])
    expect(found["sentence"]).to eq("0 of 2 have the newest; behind: Second unit, Desk.")
    # And how it came to be so, day by day.
    Studio::M::SpreadDay.create!(library_id: @first.id, day: Date.current - 7, places: 2, newest: 2)
    days = call(:get, "/api/libraries/#{@first.id}/consistency")["developed"]
    expect(days.map { |one| one.values_at("places", "newest") }).to eq([[2, 2], [2, 0]])
    # What somebody tuned for themselves is told too; it makes nobody behind.
    kept = three.reload.current_version.document
    call(
      :put,
      "/api/presets/#{three.id}/draft",
      {document: kept.merge("name" => "Mine"), base: three.current_version.number}
    )
    again = call(:get, "/api/libraries/#{@first.id}/consistency")
    expect(again["cells"]).to include([three.id, "p#{maren.id}", "own"])
    expect(again["sentence"]).to eq(found["sentence"])
  end
end
