# frozen_string_literal: true

require "support/api"

# What is tuned on the Bench: step by step, in several windows, by several people.
RSpec.describe "tuning", :api do
  let(:preset) { @first.presets.find_by!(name: "Quay line") }
  let(:path) { "/api/presets/#{preset.id}" }

  before { sign_in("maren") }

  def detail = call(:get, path)

  def original = @original ||= detail["document"]

  # A document with some settings at other values.
  def tuned(document = original, size: nil, flow: nil, hardness: nil)
    mark = document["tip"]
    mark = mark.merge("size" => mark["size"].merge("base" => size)) if size
    mark = mark.merge("form" => mark["form"].merge("hardness" => hardness)) if hardness
    document.merge("tip" => mark, "paint" => flow ? document["paint"].merge("flow" => flow) : document["paint"])
  end

  def keep(document, **more) = call(:put, "#{path}/draft", {document:, **more})

  def go(way) = call(:post, "#{path}/steps", {go: way})

  def sizes(answer) = answer["document"].dig("tip", "size", "base")

  describe "steps" do
    it "goes back and forth across all settings, and forgets what was done again after another change" do
      [20, 25, 30].each { keep(tuned(size: _1)) }
      keep(tuned(size: 30, flow: 0.5))
      expect(detail["room"]).to eq({"back" => 4, "forth" => 0})
      expect(
        [
          go("back")["document"].dig("paint", "flow"),
          sizes(go("back")),
          sizes(go("back")),
          sizes(go("forth"))
        ]
      ).to eq([1, 25, 20, 25])
      expect(detail["room"]).to eq({"back" => 2, "forth" => 2})
      expect(keep(tuned(size: 26))["room"]).to eq({"back" => 3, "forth" => 0})
      3.times { go("back") }
      expect([detail["draft"], detail["room"]["forth"]]).to eq([nil, 3])
      expect(go("back")["error"]).to match(/Nothing to undo/)
      expect(sizes(go("forth"))).to eq(20)
      expect(call(:post, "#{path}/steps", {go: "up"})["error"]).to match(/go: "up" is none of those it may be/)
    end

    it "counts a drag as one step" do
      [16, 17, 18, 19].each_with_index { |size, index| keep(tuned(size:), fresh: index.zero?) }
      expect(detail["room"]).to eq({"back" => 1, "forth" => 0})
      expect(sizes(go("back"))).to eq(15)
    end

    it "brings back what was discarded, and keeps the newest steps only" do
      stub_const("#{Studio::M::Tuning}::MOST", 10)
      keep(tuned(size: 33))
      call(:post, "/api/libraries/#{@first.id}/reset", {preset_ids: [preset.id], to: "current"})
      expect(sizes(go("back"))).to eq(33)
      (1..15).each { keep(tuned(size: 40 + _1)) }
      expect(Studio::M::TuningStep.count).to be <= 11
      expect(Array.new(9) { sizes(go("back")) }).to eq([*46..54].reverse)
    end

    it "belongs to the person, goes with the brush, and keeps the brush's name" do
      keep(tuned(size: 33))
      call(:post, "/api/libraries/#{@first.id}/renames", {preset_ids: [preset.id], rules: {name: "Harbour line"}})
      expect(detail.dig("draft", "base")).to eq(2) # a new name puts nobody's draft behind
      expect(go("back")["draft"]).to be_nil
      expect(
        go("forth")["document"].values_at("name", "tip").then { |name, mark|
          [name, mark["size"]["base"]]
        }
      ).to eq(["Harbour line", 33])
      sign_in("tove")
      expect(detail["room"]).to eq({"back" => 0, "forth" => 0})
      Studio::M::Draft.delete_all
      Fobrel::Actions::DeletePresets.erase([preset.id])
      expect(Studio::M::TuningStep.count).to eq(0)
    end
  end

  describe "two windows of one person" do
    it "brings changes of different settings together and tells each" do
      keep(tuned(size: 40), was: original)
      second = keep(tuned(flow: 0.3), was: original)
      expect(
        [
          sizes(second),
          second["document"]["paint"]["flow"],
          second["merged"],
          second["given_up"]
        ]
      ).to eq([40, 0.3, ["Size 15 px → 40 px"], []])
      expect(keep(tuned(size: 50), was: tuned(size: 40))["merged"]).to eq(["Flow 100 % → 30 %"])
    end

    it "lets the last change of the same setting count, says what gave way, and can bring it back" do
      keep(tuned(size: 40), was: original)
      second = keep(tuned(size: 22, hardness: 0.5), was: original)
      expect([sizes(second), second["given_up"]]).to eq([22, ["Size 40 px"]])
      expect(sizes(go("back"))).to eq(40)
    end

    it "minds what was saved, discarded or done again meanwhile" do
      keep(tuned(size: 40), was: original)
      save_tuned(path, tuned(size: 40), base: 1)
      late = keep(tuned(tuned(size: 40), flow: 0.4), was: tuned(size: 40))
      expect([late["merged"], late["draft"]["base"], sizes(late)]).to eq([[], 2, 40])
      # The answer was lost, the change was not.
      expect(keep(tuned(tuned(size: 40), flow: 0.4), was: original)["merged"]).to eq([])
    end

    it "says what is there now, for a window that shows something older" do
      before = call(:get, "#{path}/state")
      expect(before).to include("version" => 1, "locked_by" => nil, "hidden" => false, "name" => "Quay line")
      kept = keep(tuned(size: 40))["kept"]
      expect([call(:get, "#{path}/state")["kept"], detail["kept"]]).to eq([kept, kept])
      sign_in("tove")
      expect(call(:get, "#{path}/state")["kept"]).to eq(before["kept"])
      expect(call(:put, "#{path}/lock", {locked: true})["error"]).to be_a(String)
    end
  end

  it "does not blame a draft for what others saved" do
    sign_in("tove")
    keep(tuned(flow: 0.5))
    sign_in("maren")
    save_tuned(path, tuned(size: 99), base: 1)
    sign_in("tove")
    expect(detail["draft"].values_at("base", "base_document")).to eq([1, original])
    rows = ->(to) {
      call(:get, "/api/libraries/#{@first.id}/changed?to=#{to}")["presets"].find {
        _1["name"] == "Quay line"
      }
    }
    expect(rows["current"]["tuned"]).to eq(["Flow 100 % → 50 %"])
    # What going back would change is said from now to then.
    expect(rows["baseline"].values_at("words", "mine")).to eq([["Flow 50 % → 100 %"], true])
    Studio::M::Draft.delete_all
    expect(rows["baseline"].values_at("words", "mine", "greatest")).to eq([["Size 99 px → 15 px"], false, [99, 15]])
  end

  it "keeps what is possible beside one impossible setting" do
    size = original["tip"]["size"].merge("minimum" => 50, "maximum" => 10)
    answer = keep(tuned(flow: 0.2).merge("tip" => original["tip"].merge("size" => size)))
    expect(answer["document"]["paint"]["flow"]).to eq(0.2)
    expect(answer["held"]).to eq(["Maximum size 5000 px → 10 px is not possible, so Maximum size stays as it was."])
    expect(answer["held"].join).not_to include("tip.size")
    expect(keep({"nonsense" => 1})["error"]).to be_a(String)
    expect(keep(tuned.merge("id" => SecureRandom.uuid))["error"]).to match(/another brush/)
  end

  it "gives a brush made from another the artist's name, tags, category and notes of its own" do
    category = @first.categories.create!(name: "Rigging", position: 0)
    sign_in("tove")
    order = {tags: ["rope", "new"], category: category.id, notes: "For far masts."}
    made = save_tuned(path, tuned(size: 9), as: "variations", name: "Thin quay", **order)
    about = made["document"]["about"]
    expect(
      [
        about["author"],
        about["notes"],
        made["preset"]["category_id"]
      ]
    ).to eq(["Tove Lindgaard", "For far masts.", category.id])
    expect(Studio::M::Tag.where(id: made["preset"]["tag_ids"]).order(:name).pluck(:name)).to eq(%w[new rope])
    other = @second.categories.create!(name: "Elsewhere", position: 0)
    as_new = ->(**said) { save_tuned(path, original, as: "variations", **said)["error"] }
    expect(as_new[name: "B", category: other.id]).to match(/doesn’t exist/)
    expect(as_new[name: "C", tags: "x"]).to match(/tags: expected array, but received String/)
    expect([detail["origin"], call(:get, "/api/presets/#{made["preset"]["id"]}")["origin"]]).to eq(%w[received made])
  end

  it "gives a version a note later; what it paints stays" do
    print = preset.current_version.fingerprint
    got = call(:put, "#{path}/versions/1", {note: "The line of the first reel"})
    expect(
      got["versions"][0].values_at(
        "note",
        "name",
        "fingerprint"
      )
    ).to eq(["The line of the first reel", nil, print])
    expect(
      call(:put, "#{path}/versions/1", {name: "First"})["versions"][0].values_at(
        "note",
        "name"
      )
    ).to eq(["The line of the first reel", "First"])
    sign_in("ilse")
    expect(call(:put, "#{path}/versions/1", {note: "x"})["error"]).to match(/guest/)
  end

  it "has words of its own for taking back what is locked" do
    save_tuned(path, tuned(size: 99), base: 1)
    call(:put, "#{path}/lock", {locked: true})
    sign_in("tove")
    keep(tuned(size: 70))
    expect(call(:post, "/api/libraries/#{@first.id}/reset", {preset_ids: [preset.id], to: "baseline"})["error"])
      .to eq(
        "“Quay line” is locked by Maren Oake. Nothing went back, and every draft is still there. Leave it out, or " \
          "ask a lead to unlock it or to take it back."
      )
    expect(detail["draft"]).not_to be_nil
    expect(save_tuned(path, tuned(size: 70), base: 2)["error"]).to match(/kept as your draft. Save it as new brush/)
  end

  it "shows what brushes are made of, to members only" do
    parts = call(:get, "/api/libraries/#{@first.id}/parts")
    expect([parts["tips"], parts["grains"]]).to all(be_an(Array))
    brush = @first.presets.joins(:current_version).find { _1.current_version.value.needs.any? }
    sum = brush.current_version.value.needs.first.delete_prefix("sha256:")
    picture = call(:get, "/api/libraries/#{@first.id}/parts/#{sum}.png?side=64")
    expect(Vips::Image.new_from_buffer(picture, "").size.max).to be <= 64
    call(:get, "/api/libraries/#{@second.id}/parts/#{sum}.png")
    expect(status).to eq(404)
  end

  it "paints strips that are shown together for the largest of them" do
    print = preset.fingerprint
    strip = ->(query) { call(:get, "/api/strips/#{print}/list.png#{query}") }
    alone = strip[""]
    small = strip["?beside=400"]
    reach = ->(png) {
      Vips::Image.new_from_buffer(png, "").extract_band(3).find_trim(background: 0, threshold: 1).values_at(3).first
    }
    expect(reach[small]).to be < reach[alone]
    expect(strip["?beside=410"]).to eq(small) # in steps
    expect(strip["?beside=20"]).to eq(alone)
    expect([strip["?beside=x"]["error"], status]).to match([/beside|number/, 400])
  end

  describe "answers that were lost" do
    def asked(key, verb, path, data)
      header "Idempotency-Key", key
      call(verb, path, data)
    ensure
      header "Idempotency-Key", nil
    end

    it "does nothing twice under one key" do
      body = {kept: detail["kept"], name: "Only one"}
      one = asked("key-number-one", :post, "#{path}/variations", body)
      again = asked("key-number-one", :post, "#{path}/variations", body)
      expect([again, status, @first.presets.where(name: "Only one").count]).to eq([one, 201, 1])
      expect(asked("key-number-two", :post, "#{path}/variations", body)["error"]).to match(/already here/)
      expect(
        asked(
          "key-number-two",
          :post,
          "#{path}/variations",
          body.merge(name: "Other")
        )["error"]
      ).to match(/another request/)
      expect(asked("key-number-one", :put, "#{path}/draft", {document: original})["error"]).to match(/another request/)
      expect(asked("short", :put, "#{path}/draft", {document: original})["error"]).to match(/8 to 100/)
    end

    it "writes no token down" do
      made = asked("key-of-a-token", :post, "/api/tokens", {name: "nightly"})
      expect(made["token"]).to start_with("fobrel_")
      expect(Studio::M::Reply.where(key: "key-of-a-token")).to be_empty
    end

    it "belongs to one person, waits while it is being done, and is given up when that never ends" do
      asked("key-number-one", :put, "#{path}/favourite", {on: true})
      sign_in("tove")
      expect(asked("key-number-one", :put, "#{path}/favourite", {on: false})).to eq({"favourite" => false})
      reply = Studio::M::Reply.create!(
        person: Studio::M::Person.find_by!(login: "tove"),
        key: "key-under-way",
        asked: "PUT #{path}/favourite #{Digest::SHA256.hexdigest(JSON.generate({on: true}))}",
        created_at: Time.current
      )
      expect(
        [
          asked("key-under-way", :put, "#{path}/favourite", {on: true})["error"],
          status
        ]
      ).to match([/at this moment/, 425])
      reply.update!(created_at: 2.minutes.ago)
      expect(asked("key-under-way", :put, "#{path}/favourite", {on: true})).to eq({"favourite" => true})
    end
  end

  it "tells the role at every answer, and a session that ended from an old token" do
    detail
    expect(last_response.headers["x-role"]).to eq("#{@first.id} lead")
    Studio::M::Membership.find_by!(
      person: Studio::M::Person.find_by!(login: "maren"),
      library: @first
    ).update!(role: "guest")
    expect(
      [
        keep(tuned(size: 3))["error"],
        last_response.headers["x-role"]
      ]
    ).to match([/as guest/, "#{@first.id} guest"])
    @token = "old"
    expect(
      [
        keep(tuned(size: 3))["error"],
        status,
        last_response.headers["x-renew"]
      ]
    ).to match([/out of date/, 403, "token"])
    clear_cookies
    expect([keep(tuned(size: 3))["error"], status]).to eq(["Sign in first.", 401])
  end
end
