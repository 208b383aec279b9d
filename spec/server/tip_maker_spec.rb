# frozen_string_literal: true

require "support/api"

RSpec.describe "the tip maker", :api do
  before { sign_in("maren") }

  let(:library) { "/api/libraries/#{@first.id}" }

  # A page with three marks.
  def sheet
    image = Vips::Image.black(300, 200).invert.copy(interpretation: :b_w)
    image = image.draw_rect([0], 20, 20, 50, 60, fill: true).draw_circle([40], 200, 60, 30, fill: true)
    image.draw_rect([0], 90, 120, 80, 40, fill: true).pngsave_buffer
  end

  def bring(bytes = sheet, file: "three_marks.png", **more)
    call(:post, "#{library}/works?#{URI.encode_www_form(file:, **more)}", bytes)
  end

  def chosen(work, *indexes)
    frames = indexes.map { |index|
      {
        "page" => 0,
        "area" => {
          "marks" => work["sheets"][0]["marks"][index]["parts"],
          "box" => work["sheets"][0]["marks"][index]["box"]
        }
      }
    }
    work["state"].merge("frames" => frames)
  end

  def save(work, state, **wish)
    call(:post, "/api/works/#{work["id"]}/save", {state:, wish:})
  end

  it "keeps what is brought from the first moment, for this person alone" do
    work = bring
    expect(work.values_at("name", "pages", "room")).to eq(["Three marks", 1, {"back" => 0, "forth" => 0}])
    expect(work["sheets"][0]["marks"].map { _1["box"].map { |share| share.round(2) } })
      .to eq([[0.07, 0.1, 0.17, 0.3], [0.57, 0.15, 0.2, 0.31], [0.3, 0.6, 0.27, 0.2]])
    expect(call(:get, "#{library}/works")["works"].map { _1["id"] }).to eq([work["id"]])
    expect(call(:get, "/api/works/#{work["id"]}/pages/#{work["page"]}.png")[1, 3]).to eq("PNG")
    sign_in("tove")
    expect(call(:get, "#{library}/works")["works"]).to eq([])
    [["get", ""], ["delete", ""], ["get", "/pages/#{work["page"]}.png"]].each do |verb, more|
      call(verb.to_sym, "/api/works/#{work["id"]}#{more}")
      expect(status).to eq(404)
    end
    sign_in("ilse")
    bring
    expect(status).to eq(403)
  end

  it "goes back and forth in steps, joins a drag into one, and refuses what was done on an older one" do
    work = bring
    path = "/api/works/#{work["id"]}"
    put = ->(state, **more) { call(:put, path, {state:, **more}) }
    one = put[chosen(work, 0), step: work["step"]]
    tone = ->(black) { one["state"].merge("tone" => one["state"]["tone"].merge("black" => black)) }
    put[tone[10]]
    put[tone[20], fresh: false]
    expect(call(:post, "#{path}/step", {go: "back"})["state"]["tone"]["black"]).to be_nil
    expect(call(:post, "#{path}/step", {go: "forth"})["state"]["tone"]["black"]).to eq(20)
    expect(put[chosen(work, 1), step: work["step"]]["error"]).to match(/changed in another window/)
    expect(status).to eq(409)
    call(:delete, path)
    expect(call(:get, "#{library}/works")["works"]).to eq([])
    expect(call(:post, "#{path}/back")["room"]).to eq("back" => 2, "forth" => 0)
  end

  it "shows a mark as it will be, then makes it so in full" do
    work = bring
    state = chosen(work, 1).merge("tone" => {"solid" => true})
    looked = call(:post, "/api/works/#{work["id"]}/look", {state:, frame: 0})
    expect(looked.values_at("width", "solid", "kinds")).to match([62, true, array_including("stamp")])
    expect(looked["before"]["greatest_cover"]).to be_within(0.02).of(1 - 40 / 255.0)
    expect(call(:post, "/api/works/#{work["id"]}/strip", {state:, kind: "ink"})[1, 3]).to eq("PNG")
    task = save(work, state, as: "brush", name: "Pebble", kind: "stamp")
    expect(
      task.values_at(
        "state",
        "message"
      )
    ).to match(["done", /“Pebble” is a brush now. Kept: its tip, one size, far apart/])
    preset = Studio::M::Preset.find(task["made"]["presets"].first)
    tip = Studio::M::Asset::Bytes.fetch(preset.current_version.document["tip"]["form"]["frames"].first) { nil }
    expect(Fobrel::Core::Tip::Cover.from_file(tip)).to be_solid
    call(:post, "/api/history/#{task["entry"]["id"]}/undo")
    expect(Studio::M::Preset.exists?(preset.id)).to be(false)
  end

  it "shows a reel of which one frame is empty, and says of that one what is wrong" do
    work = bring
    state = work["state"].merge(
      "frames" => [
        {"page" => 0, "area" => {"box" => [0, 0, 0.5, 0.5]}},
        {"page" => 0, "area" => {"box" => [0.9, 0.9, 0.1, 0.1]}}
      ]
    )
    look = ->(frame) { call(:post, "/api/works/#{work["id"]}/look", {state:, frame:}) }
    expect(look[0]["frames"].size).to eq(2)
    expect(look[1]["error"]).to match(/Mark 2 has nothing dark enough/)
    expect(
      save(work, state, as: "brush", name: "Half", kind: "stamp").values_at(
        "state",
        "message"
      )
    ).to match(["failed", /Mark 2 has nothing/])
  end

  it "makes several marks one reel, or a brush each under running numbers" do
    work = bring
    state = chosen(work, 2, 0, 1)
    reel = save(work, state, as: "brush", name: "Kelp", kind: "garland")
    tip = Studio::M::Preset.find(reel["made"]["presets"].first).current_version.document["tip"]["form"]
    expect([tip["frames"].size, tip["turn"]]).to eq([3, "in order"])
    each = save(work, state, as: "brushes", name: "Leaf", kind: "stamp")
    expect(Studio::M::Preset.find(each["made"]["presets"]).map(&:name)).to eq(["Leaf", "Leaf 2", "Leaf 3"])
    again = save(work, state, as: "brush", name: "kelp", kind: "stamp")
    expect(again.values_at("state", "message")).to match(["failed", /called “kelp” is already here.*“kelp 2”/])
  end

  it "keeps red, green and blue layers as they are" do
    tall = Vips::Image.arrayjoin(
      [[255, 0, 0], [0, 255, 0], [0, 0, 255]].map { |colour|
        Vips::Image.black(20, 20).new_from_image(colour + [255]).cast(:uchar).copy(interpretation: :srgb)
          .embed(10, 10, 40, 40, extend: :background, background: [0, 0, 0, 0])
      },
      across: 1
    )
    work = bring(
      tall.mutate { |one|
        one.set_type!(GObject::GINT_TYPE, "page-height", 40)
      }.tiffsave_buffer,
      file: "rgb.tif"
    )
    expect(work["state"].values_at("colours")).to eq(["keep"])
    task = save(work, work["state"], as: "brush", name: "Lanterns", kind: "garland")
    tip = Studio::M::Preset.find(task["made"]["presets"].first).current_version.document["tip"]["form"]
    colours = tip["frames"].map { |sum|
      Vips::Image.new_from_buffer(Studio::M::Asset::Bytes.fetch(sum) { nil }, "").getpoint(10, 10).first(3)
    }
    expect([tip["colours"], colours]).to eq(["own", [[255, 0, 0], [0, 255, 0], [0, 0, 255]]])
    packed = Fobrel::Core::Package::Reader.read(
      package(
        @first,
        [Studio::M::Preset.find(task["made"]["presets"].first)]
      )
    )
    expect(
      tip["frames"].map { |sum|
        Vips::Image.new_from_buffer(packed.assets.fetch(sum).bytes, "").getpoint(10, 10).first(3)
      }
    )
      .to eq(colours)
  end

  it "writes words and draws figures that can be changed later, a figure kept as lines" do
    work = call(:post, "#{library}/works/made", {text: {"text" => "© Skerrow"}})
    expect(work["sheets"][0]["made"]["text"]["text"]).to eq("© Skerrow")
    changed = call(
      :post,
      "#{library}/works/made",
      {work: work["id"], page: 0, text: {"text" => "© S.", "weight" => 700}}
    )
    expect([changed["sheets"].size, changed["sheets"][0]["made"]["text"]["weight"]]).to eq([1, 700])
    # A new text is a step; what goes on with it is none of its own.
    text = ->(word, **more) { {work: work["id"], page: 0, text: {"text" => word}, **more} }
    expect(call(:post, "#{library}/works/made", text["© Sk.", fresh: false])["room"]).to eq("back" => 1, "forth" => 0)
    back = call(:post, "/api/works/#{work["id"]}/step", {go: "back"})
    expect(back["sheets"][0]["made"]["text"]["text"]).to eq("© Skerrow")
    star = call(:post, "#{library}/works/made", {figure: [{"shape" => "star", "points" => 7}]})
    part = save(star, star["state"], as: "part", name: "Star")
    kept = Studio::M::Part.find(part["made"]["parts"].first)
    expect([kept.kind, kept.ext, kept.made["figure"].first["points"]]).to eq(["drawing", "svg", 7])
    expect(
      call(
        :post,
        "#{library}/works/made",
        {figure: [{"shape" => "nothing"}]}
      )["error"]
    ).to match(/no shape “nothing”/)
    expect(call(:post, "#{library}/works/made", {text: {"text" => "", "font" => "x"}})["error"]).to match(/no font/)
  end

  it "keeps the lines of a drawing that was brought as lines, without what would run in it" do
    svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><script>x()</script><path d="M1 1h7v7h-7z"/></svg>'
    work = bring(svg, file: "quay.svg")
    expect(status).to eq(201), work["error"]
    part = save(work, work["state"], as: "part", name: "Quay stone")
    expect(part["message"]).to eq("“Quay stone” saved under Tips and grains.")
    kept = Studio::M::Part.find(part["made"]["parts"].first)
    lines = Studio::M::Asset::Bytes.fetch(kept.sha256) { nil }
    expect(
      [
        kept.kind,
        kept.ext,
        lines.include?("<path"),
        lines.include?("script")
      ]
    ).to eq(["drawing", "svg", true, false])
    expect(Studio::M::Asset.where("position('<script'::bytea in bytes) > 0").count).to eq(0)
  end

  it "makes a grain with its twin, and gives a brush that is here a new tip as a draft" do
    work = bring
    grains = save(work, work["state"], as: "grain", name: "Wet stone", twin: true)
    expect(
      Studio::M::Part.find(grains["made"]["parts"]).map {
        [_1.kind, _1.name]
      }
    ).to eq([["grain", "Wet stone"], ["grain", "Wet stone 2"]])
    preset = @first.presets.first
    task = save(work, chosen(work, 0), as: "tip", preset_id: preset.id)
    expect(task["message"]).to match(/as your draft/)
    draft = preset.drafts.find_by(person: Studio::M::Person.find_by(login: "maren"))
    expect(draft.document["tip"]["form"]["kind"]).to eq("picture")
    expect(preset.current_version.document["tip"]["form"]).not_to eq(draft.document["tip"]["form"])
  end

  it "refuses pages of somebody else's work, and pictures that are none, in words" do
    work = bring
    mine = bring
    call(:put, "/api/works/#{work["id"]}", {state: mine["state"]})
    expect(status).to eq(422)
    expect(bring("nonsense", file: "x.png")["error"]).to match(/not a PNG.*Nothing was kept/m)
    expect(bring(Vips::Image.black(20, 20).pngsave_buffer, file: "dark.png")["sheets"][0]["dark"]).to be(true)
  end

  it "lets go of what was discarded, and keeps the pictures of what was not" do
    work = bring
    sum = Studio::M::WorkPage.find(work["page"]).sha256
    Studio::M::Asset.update_all(created_at: 31.days.ago)
    Studio::M::Cleaning.create!.run
    expect(Studio::M::Asset.exists?(sum)).to be(true)
    Studio::M::Work.update_all(thrown_at: 31.days.ago)
    2.times { Studio::M::Cleaning.create!.run }
    expect([Studio::M::Work.count, Studio::M::WorkPage.count, Studio::M::Asset.exists?(sum)]).to eq([0, 0, false])
  end
end
