# frozen_string_literal: true

require "support/api"

RSpec.describe "the Bench", :api do
  before { sign_in("maren") }

  let(:preset) { @first.presets.find_by!(name: "Quay line") }
  let(:path) { "/api/presets/#{preset.id}" }
  let(:library) { "/api/libraries/#{@first.id}" }

  def detail(id = preset.id) = call(:get, "/api/presets/#{id}")

  def document(id = preset.id) = detail(id)["document"]

  def tuned(from = document, size: nil, **groups)
    from = from.merge("tip" => from["tip"].merge("size" => from["tip"]["size"].merge("base" => size))) if size
    groups.inject(from) { |now, (name, change)| now.merge(name.to_s => (now[name.to_s] || {}).merge(change)) }
  end

  def save(document, **rest) = save_tuned(path, document, **rest)

  describe "saving" do
    it "saves along only what the capture list asks for" do
      stray = tuned(
        size: 33,
        paint: {"colour" => {"mode" => "fixed", "value" => "#0f6b6b"}},
        extras: {"mirror" => "down", "behind" => true, "layer" => "ink"}
      )
      saved = save(stray, base: 1, capture: ["layer"])
      expect(
        saved["document"].values_at("extras").first.values_at(
          "mirror",
          "behind",
          "layer"
        )
      ).to eq([nil, false, "ink"])
      expect(
        [
          saved["document"]["paint"]["colour"],
          saved["document"]["tip"]["size"]["base"],
          saved["captured"]
        ]
      ).to eq([{"mode" => "artist"}, 33, ["layer"]])
      made = save_tuned(path, stray, as: "variations", capture: %w[colour], name: "Stray line")
      expect([made["captured"], made["preset"]["name"]]).to eq([["colour"], "Stray line"])
    end

    it "saves as new at the place chosen in a set, into favourites, and refuses a name that is taken" do
      others = @first.presets.where.not(id: preset.id).limit(2).to_a
      set = @first.brush_sets.create!(name: "Kit").tap { _1.put_in_order([preset.id, *others.map(&:id)]) }
      place = {set: set.id, before: others[0].id}
      made = save_tuned(path, tuned(size: 9), as: "variations", places: [place], favourite: true)
      expect(set.preset_ids_in_order).to eq([preset.id, made["preset"]["id"], *others.map(&:id)])
      expect(made["preset"]["favourite"]).to be(true)
      answer = save_tuned(path, tuned(size: 9), as: "variations", name: "quay LINE")
      expect([status, answer["error"]]).to match([422, /already here\. Nothing was saved; .*“quay LINE 3”/])
      foreign = @second.brush_sets.create!(name: "Theirs")
      save_tuned(path, tuned(size: 9), as: "variations", places: [{set: foreign.id}])
      expect([status, @first.presets.where("name LIKE 'Quay line%'").count]).to eq([404, 2])
    end

    it "brings two people's changes together, asking where they meet" do
      mine = tuned(size: 50, stroke: {"spacing" => 0.5})
      sign_in("tove")
      call(:put, "#{path}/draft", {document: mine})
      sign_in("maren")
      save(tuned(size: 33, paint: {"flow" => 0.4}), base: 1)
      sign_in("tove")
      merge = call(:post, "#{path}/merge", {})
      expect(
        [
          merge["by"],
          merge["version"],
          merge["undecided"],
          merge["conflicts"].map {
            _1["words"]
          }
        ]
      ).to eq(["Maren Oake", 2, true, [{"base" => "15 px", "mine" => "50 px", "theirs" => "33 px"}]])
      choice = {merge["conflicts"][0]["key"] => "mine"}
      merged = call(:post, "#{path}/merge", {choices: choice})
      kept = detail["kept"]
      expect(call(:post, "#{path}/versions", {kept:, base: 2})["error"]).to match(/saved version 2 .* in the meantime/)
      expect(call(:post, "#{path}/versions", {kept:, base: 2, choices: {}})["error"]).to match(/Choose one of the two/)
      expect(call(:post, "#{path}/versions", {kept: "0" * 64, base: 2, choices: choice})["error"]).to match(/window/)
      saved = call(:post, "#{path}/versions", {kept:, base: 2, choices: choice})
      expect([status, merged["undecided"], saved["preset"]["version"]]).to eq([201, false, 3])
      expect(
        saved["document"].then {
          [_1["tip"]["size"]["base"], _1["stroke"]["spacing"], _1["paint"]["flow"]]
        }
      ).to eq([50, 0.5, 0.4])
    end

    it "lets a lead lock a brush: an artist saves as new, and no way round it" do
      call(:put, "#{path}/lock", {locked: true})
      expect([status, detail["locked_by"], detail["preset"]["locked"]]).to eq([200, "Maren Oake", true])
      sign_in("tove")
      changed = tuned(size: 33)
      answers = [
        save(changed, base: 1),
        call(
          :post,
          "#{library}/revisions",
          {preset_ids: [preset.id], as: "versions", change: "fit", width: 20, height: 20, share: 0.2}
        )
      ]
      expect(
        answers.map {
          _1["error"]
        }
      ).to all(match(/“Quay line” is locked by Maren Oake\. Nothing was (saved; your change is kept as your|changed)/))
      call(:put, "#{path}/lock", {locked: false})
      expect(status).to eq(403)
      expect(save_tuned(path, changed, as: "variations")["preset"]["name"]).to eq("Quay line 2")
      entry = @first.history_entries.find_by!(kind: "lock")
      call(:post, "/api/history/#{entry.id}/undo", {})
      expect([status, preset.reload.locked_by.nil?]).to eq([403, false])
      sign_in("maren")
      expect(save(tuned(size: 34), base: 1)["preset"]["version"]).to eq(2)
    end
  end

  describe "going back" do
    it "goes to the current version, to baseline, or as received, by exact fingerprint, and undoes each" do
      received = detail["preset"]["fingerprint"]
      second = save(tuned(size: 33), base: 1)["preset"]["fingerprint"]
      call(:put, "#{path}/baseline", {number: 2})
      third = save(tuned(size: 44), base: 2)["preset"]["fingerprint"]
      call(:put, "#{path}/draft", {document: tuned(size: 55)})
      expect(
        %w[current baseline received].map { |to|
          call(:get, "#{library}/changed?to=#{to}")["presets"].find {
            _1["id"] == preset.id
          }["after"]
        }
      ).to eq([third, second, received])
      {"current" => third, "baseline" => second, "received" => received}.each do |to, print|
        entry = call(:post, "#{library}/reset", {preset_ids: [preset.id], to:})["entry"]
        expect([detail["draft"], detail["preset"]["fingerprint"]]).to eq([nil, print])
        call(:post, "/api/history/#{entry["id"]}/undo", {})
        expect(
          [
            detail["draft"]["document"]["tip"]["size"]["base"],
            detail["preset"]["fingerprint"]
          ]
        ).to eq([55, third])
      end
      expect(call(:post, "#{library}/reset", {preset_ids: [preset.id], to: "nowhere"}) && status).to eq(400)
    end

    it "keeps earlier baselines in the history, and undoes a new one" do
      save(tuned(size: 33), base: 1)
      entry = call(:put, "#{path}/baseline", {number: 2})["entry"]
      expect([detail["preset"]["baseline"], detail["baselines"].map { _1["number"] }]).to eq([2, [2]])
      expect(call(:put, "#{path}/baseline", {number: 2})["error"]).to match(/already the baseline/)
      call(:post, "/api/history/#{entry["id"]}/undo", {})
      expect(detail["preset"]["baseline"]).to eq(1)
      call(:put, "#{path}/baseline", {number: 9})
      expect(status).to eq(404)
    end

    it "brings an old version back as the next one, and names an important one" do
      first = detail["preset"]["fingerprint"]
      save(tuned(size: 33), base: 1)
      entry = call(:post, "#{path}/restore", {number: 1})["entry"]
      expect(
        [
          detail["preset"]["version"],
          detail["preset"]["fingerprint"],
          detail["versions"][0]["note"]
        ]
      ).to eq([3, first, "Version 1 restored"])
      call(:post, "/api/history/#{entry["id"]}/undo", {})
      expect([detail["preset"]["version"], detail["versions"].size]).to eq([2, 3])
      named = call(:put, "#{path}/versions/1", {name: "As the maker meant it"})
      expect(named["versions"].last["name"]).to eq("As the maker meant it")
      expect(call(:put, "#{path}/versions/1", {name: ""})["versions"].last["name"]).to be_nil
      expect(call(:get, "#{path}/versions/1")["fingerprint"]).to eq(first)
    end

    it "lists drafts with what was changed, and discards one or all" do
      ids = @first.presets.limit(3).ids
      ids.each { |id|
        call(:put, "/api/presets/#{id}/draft", {document: tuned(document(id), paint: {"flow" => 0.42})})
      }
      rows = call(:get, "#{library}/changed?to=current")["presets"]
      expect(
        [
          rows.map { _1["id"] }.sort,
          rows.map {
            _1["tuned"]
          }
        ]
      ).to match([ids.sort, all(include(match(/Flow .* → 42 %/)))])
      call(:post, "#{library}/reset", {preset_ids: [ids[0]], to: "current"})
      expect(call(:get, "#{library}/changed?to=current")["presets"].size).to eq(2)
      entry = call(:post, "#{library}/reset", {to: "current"})["entry"]
      expect([entry["summary"], Studio::M::Draft.count]).to eq(["2 brushes reset to the current version", 0])
    end
  end

  describe "changing many" do
    let(:ids) { @first.presets.ids }

    it "fits brushes to a canvas: first a plan, then drafts or versions, then undone" do
      fit = {preset_ids: ids, change: "fit", width: 200, height: 100, share: 0.2}
      plan = call(:post, "#{library}/revisions?plan=true", fit.merge(as: "drafts"))
      expect(
        [
          plan["count"],
          Studio::M::Draft.count,
          plan["rows"].map {
            _1["document"]["tip"]["size"]["maximum"]
          }.uniq
        ]
      ).to eq([ids.size, 0, [20.0]])
      call(:put, "#{path}/draft", {document: tuned(size: 100)})
      entry = call(:post, "#{library}/revisions", fit.merge(as: "drafts"))["entry"]
      expect(
        [
          entry["summary"],
          detail["draft"]["document"]["tip"]["size"].values_at(
            "base",
            "maximum"
          )
        ]
      ).to eq(["#{ids.size} brushes fitted to a canvas of 200 × 100 px, as drafts", [20, 20]])
      call(:post, "/api/history/#{entry["id"]}/undo", {})
      expect([Studio::M::Draft.count, detail["draft"]["document"]["tip"]["size"]["base"]]).to eq([1, 100])
      entry = call(:post, "#{library}/revisions", fit.merge(as: "versions"))["entry"]
      expect(
        [
          detail["preset"]["version"],
          detail["versions"][0]["note"]
        ]
      ).to eq([2, "Fitted to a canvas of 200 × 100 px"])
      call(:post, "/api/history/#{entry["id"]}/undo", {})
      expect(detail["preset"]["version"]).to eq(1)
      expect(
        call(
          :post,
          "#{library}/revisions",
          fit.merge(as: "drafts", share: 7)
        )["error"]
      ).to match(/share lies between 1 and 100 %/)
    end

    it "copies settings to others, a group at a time" do
      other = @first.presets.where.not(id: preset.id).first
      from = tuned(size: 77, paint: {"flow" => 0.31})
      before = document(other.id)
      call(
        :post,
        "#{library}/revisions",
        {preset_ids: [other.id], as: "versions", change: "copy", document: from, groups: %w[paint]}
      )
      after = document(other.id)
      expect([after["paint"]["flow"], after["tip"], after["name"]]).to eq([0.31, before["tip"], before["name"]])
      expect(
        call(
          :post,
          "#{library}/revisions",
          {
            preset_ids: [other.id],
            as: "versions",
            change: "copy",
            document: from,
            groups: []
          }
        )["error"]
      ).to match(/at least one group/)
    end
  end

  describe "seeing and trying" do
    def image(body) = Vips::Image.new_from_buffer(body, "")

    it "paints strips along any sample stroke, ground, colour and size, two sizes on one scale" do
      usual = call(:post, "#{library}/strip", {document: document})
      ways = [{sample: "taps"}, {ground: "black"}, {colour: "#a3312f"}, {size: 30}].map { |try|
        call(:post, "#{library}/strip", {document: document, try:})
      }
      expect([usual, *ways].uniq.size).to eq(5)
      expect(image(ways[1]).getpoint(2, 2)).to eq([0, 0, 0])
      call(:post, "#{library}/strip", {document: tuned(size: 60)})
      expect(last_response.headers["x-greatest-size"].to_f).to eq(60)
      expect(call(:post, "#{library}/strip", {document: document, beside: 300})).not_to eq(usual)
      [{sample: "nope"}, {ground: "sky"}, {size: "big"}, {colour: "red"}, "x"].each do |try|
        expect(call(:post, "#{library}/strip", {document: document, try:})["error"]).to be_a(String)
        expect(status).to be_between(400, 422)
      end
    end

    it "says how far two presets paint apart, in numbers, words and as a picture" do
      found = call(:post, "#{library}/comparison", {one: document, other: tuned(size: 30), picture: true})
      expect(found["changes"].map { _1["words"] }).to eq(["Size 15 px → 30 px"])
      expect(
        [
          found["ssim"] < 0.95,
          found["mean_difference"] > 0.5,
          found["seen"] > 0.02,
          found["picture"][0, 22]
        ]
      ).to eq([true, true, true, "data:image/png;base64,"])
      expect(call(:post, "#{library}/comparison", {one: document, other: document})["ssim"]).to eq(1)
    end

    it "paints the pad anew from its strokes, whatever the settings are by then" do
      drawn = ->(y, **more) { {samples: [{x: 20, y:, pressure: 0.8}, {x: 180, y:, pressure: 0.8}], **more} }
      pad = ->(*strokes, **more) {
        call(:post, "#{library}/pad", {document: document, width: 200, height: 100, strokes:, **more})
      }
      first = pad[drawn[30]]
      both = pad[drawn[30], drawn[70]]
      alpha = ->(body, x, y) { image(body).getpoint(x, y)[3] }
      expect(
        [
          alpha[first, 100, 30],
          alpha[first, 100, 70],
          alpha[both, 100, 30],
          alpha[both, 100, 70]
        ]
      ).to match([be > 200, 0, be > 200, be > 200])
      expect(pad[drawn[30]]).to eq(first)
      wide = pad[drawn[30], drawn[70], document: tuned(size: 30)]
      expect([alpha[both, 100, 41], alpha[wide, 100, 41]]).to match([0, be > 200])
      expect(pad[drawn[30, stand_in: "light"]]).not_to eq(first)
      expect(pad[drawn[30, colour: "#ff0000"]]).not_to eq(first)
      expect(image(pad[drawn[30], ground: "painted"]).getpoint(35, 60)).to eq([15, 107, 107, 255])
      expect(image(pad[]).avg).to eq(0)
      expect(pad[{sample: "crossing"}]).to start_with("\x89PNG".b)
      bad = [
        [drawn[30], {width: 9000}],
        [{samples: []}],
        [{samples: [{x: "a"}]}],
        [drawn[30, stand_in: "robot"]],
        [drawn[30], {ground: "moon"}],
        [*Array.new(401) { drawn[30] }]
      ]
      bad.each do |strokes|
        more = strokes.last.key?(:samples) ? {} : strokes.pop
        expect(pad[*strokes, **more]).to include("error")
        expect(status).to be_between(400, 422)
      end
    end

    it "draws curves as the core computes them" do
      points = [[0, 0], [0.5, 0.2], [1, 1]]
      drawn = call(:post, "/api/curves", {curves: [points]})["curves"][0]
      core = Fobrel::Core::Stroke::Curve.through(points)
      expect(drawn).to eq((0..48).map { core.at(_1 / 48.0).round(4) })
      expect(call(:post, "/api/curves", {curves: [[[1, 0], [0, 1]]]})["error"]).to match(/left to right/)
    end

    it "keeps sample strokes of one's own, for oneself only" do
      samples = (0..20).map { |i| {x: i * 8, y: 50, pressure: 0.5, tiltX: 0, tiltY: 0, t: i * 9} }
      made = call(:post, "/api/sample-strokes", {name: "My hatch", samples:, width: 180, height: 100})
      expect(
        call(
          :post,
          "#{library}/strip",
          {document: document, try: {sample: made["name"]}}
        )
      ).to start_with("\x89PNG".b)
      expect(
        call(
          :post,
          "/api/sample-strokes",
          {name: "", samples:, width: 180, height: 100}
        )["error"]
      ).to match(/Nothing was saved/)
      sign_in("tove")
      expect(call(:get, "/api/sample-strokes")["sample_strokes"].count { _1["own"] }).to eq(0)
      expect(call(:post, "#{library}/strip", {document: document, try: {sample: made["name"]}}) && status).to eq(404)
      expect(call(:delete, "/api/sample-strokes/#{made["id"]}") && status).to eq(404)
      sign_in("maren")
      expect(call(:delete, "/api/sample-strokes/#{made["id"]}")).to eq({"ok" => true})
    end

    it "lays a person's own hand over a brush for that person only, through its next versions" do
      usual = call(:post, "#{library}/strip", {document: document})
      call(
        :put,
        "/api/adjustments",
        {curve: [[0, 0], [0.5, 0.1], [1, 1]], smoothing: 0.3, maximum_size: 8, mirrored: true}
      )
      mine = ->(on) { call(:post, "#{library}/strip", {document: document, try: {adjustments: on}}) }
      expect([mine[true] == usual, mine[false] == usual]).to eq([false, true])
      before = detail["preset"]["fingerprint"]
      expect(detail["preset"]["fingerprint"]).to eq(before)
      save(tuned(size: 40), base: 1)
      expect(mine[true]).not_to eq(mine[false])
      sign_in("tove")
      expect(call(:get, "/api/adjustments")["plain"]).to be(true)
      expect(mine[true]).to eq(mine[false])
      expect(call(:put, "/api/adjustments", {curve: "x"})["error"]).to match(/Nothing was changed/)
      strokes = Array.new(3) { (0..40).map { |i| {x: i, y: 0, pressure: 0.4 * i / 40} } }
      fitted = call(:post, "/api/adjustments/fit", {strokes:})["curve"]
      expect(Fobrel::Core::Stroke::Curve.through(fitted).at(0.2)).to be_within(0.05).of(0.5)
    end
  end
end
