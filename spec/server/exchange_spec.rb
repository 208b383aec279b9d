# frozen_string_literal: true

require "support/api"

RSpec.describe "coming in and going out", :api do
  before { sign_in("maren") }

  def export(presets, name: "Storm kit") = package(@first, presets, name:)

  def import(bytes, library = @second) = import_brushes(library, bytes)

  def counts
    [
      Studio::M::Preset,
      Studio::M::Version,
      Studio::M::Asset,
      Studio::M::Tag,
      Studio::M::BrushSet,
      Studio::M::HistoryEntry
    ].map(&:count)
  end

  let(:presets) { @first.presets.in_order.to_a }

  it "gives a second library the same fingerprints, tags and set order; a second time adds nothing" do
    set = @first.brush_sets.create!(name: "Line kit")
    set.put_in_order(presets.values_at(4, 1, 3).map(&:id))
    whole = -> {
      exported(@first, {kind: "package", name: "Storm kit", of: {library: true}})
    }
    package = whole.call
    expect(whole.call).to eq(package)
    plan = deliver(@second, {"kit.zip" => package})
    expect(plan["items"].map { _1.values_at("state", "decision") }.uniq).to eq([%w[new take]])
    expect(@second.presets.count).to eq(0)
    apply(plan)
    expect(
      @second.presets.includes(:current_version).map {
        _1.current_version.fingerprint
      }
    ).to match_array(
      presets.map {
        _1.current_version.fingerprint
      }
    )
    tags = ->(library) {
      library.presets.includes(:tags).to_h {
        [
          _1.name,
          _1.tags.map { |tag|
            [tag.name, tag.colour, tag.shape]
          }.sort
        ]
      }
    }
    expect(tags[@second]).to eq(tags[@first])
    copy = @second.brush_sets.find_by!(name: "Line kit")
    expect(Studio::M::Preset.find(copy.preset_ids_in_order).map(&:name)).to eq(presets.values_at(4, 1, 3).map(&:name))

    before = counts
    again = import(package)
    expect(
      [
        again["report"]["lines"].map {
          _1["state"]
        }.uniq,
        again["entry"],
        counts
      ]
    ).to eq([["identical"], nil, before])
    expect(whole.call).to eq(package)
  end

  it "ends the same whether half came first or all at once" do
    import(export(presets.first(3)))
    import(export(presets))
    expect(@second.presets.count).to eq(8)
  end

  it "keeps both where a name meets another stroke, and undoes the import whole" do
    import(export(presets))
    own = @second.presets.find_by!(name: presets[0].name)
    document = own.current_version.document.merge("stroke" => {"spacing" => 0.77})
    Fobrel::Actions::AddVersion.call(
      preset: own,
      person: Studio::M::Person.first,
      value: Fobrel::Core::Preset::Preset[document]
    )
    edited = Fobrel::Core::Preset::Preset[presets[0].current_version.document.merge("stroke" => {"spacing" => 0.5})]
    Fobrel::Actions::AddVersion.call(preset: presets[0], value: edited, person: Studio::M::Person.first)
    state = -> {
      [
        @second.presets.in_order.map {
          [_1.name, _1.current_version.fingerprint]
        },
        Studio::M::Tagging.count,
        Studio::M::SetItem.count
      ]
    }
    before = state.call
    done = import(export(presets))
    expect(
      done["report"]["lines"].map {
        _1.values_at("state", "decision", "becomes")
      }
    ).to include(["apart", "both", "#{presets[0].name} 2"])
    expect(own.reload.current_version.document["stroke"]["spacing"]).to eq(0.77)
    expect(call(:post, "/api/history/#{done["entry"]["id"]}/undo", {})["kept"]).to eq([])
    expect(state.call).to eq(before)
  end

  it "keeps what somebody changed since an import, when that is undone, and says so" do
    done = import(export(presets.first(2)))
    Studio::M::Draft.create!(
      person: Studio::M::Person.last,
      preset: @second.presets.first,
      base_version: @second.presets.first.current_version,
      document: {},
      fingerprint: "x"
    )
    kept = call(:post, "/api/history/#{done["entry"]["id"]}/undo", {})["kept"]
    expect([kept.size, @second.presets.count]).to eq([1, 1])
  end

  it "leaves no gap in a set that others filled since, when an import is undone" do
    @first.brush_sets.create!(name: "Line kit").put_in_order(presets.first(3).map(&:id))
    Fobrel::Demo::Studio.import_brushes(@second, Studio::M::Person.find_by!(login: "maren"), Studio.drawn.last(2))
    ours = @second.presets.in_order.ids
    done = import(exported(@first, {kind: "package", name: "Kit", of: {library: true}}))
    set = @second.brush_sets.named("Line kit").first
    came = set.preset_ids_in_order
    call(:put, "/api/sets/#{set.id}", {preset_ids: [came[0], ours[0], came[1], ours[1], came[2]]})
    call(:post, "/api/history/#{done["entry"]["id"]}/undo", {})
    expect(set.items.order(:position).pluck(:preset_id, :position)).to eq([[ours[0], 0], [ours[1], 1]])
  end

  it "refuses bad packages in a sentence and keeps nothing of them" do
    good = export(presets)
    # Within the list of what it holds: what is changed elsewhere may cost one brush only.
    place = good.index("data/bundle.json") + 40
    changed = good.dup.tap { |bytes| bytes.setbyte(place, bytes.getbyte(place) ^ 1) }
    before = counts
    answers = ["", "words", good[0, 900], changed].map { import(_1)["report"]["lines"].sole }
    expect(answers.map { _1["sentence"] }).to all(match(/\Akit\.zip .*(Nothing was kept|left out)/))
    expect([answers.map { _1["decision"] }.uniq, counts]).to eq([["leave"], before])
  end

  it "makes a brush from a scan, with the mark in its strip, and refuses bad pictures whole" do
    scan = Vips::Image.black(90, 60).invert.draw_rect(
      [0],
      30,
      20,
      20,
      20,
      fill: true
    ).copy(interpretation: :b_w).pngsave_buffer
    bring = ->(bytes) { call(:post, "/api/libraries/#{@first.id}/works?file=mark.png", bytes) }
    save = ->(work) {
      wish = {as: "brush", name: "Bollard head", kind: "stamp", size: 30}
      call(:post, "/api/works/#{work["id"]}/save", {state: work["state"], wish:})
    }
    work = bring[scan]
    looked = call(:post, "/api/works/#{work["id"]}/look", {state: work["state"], frame: 0})
    expect(looked.values_at("width", "solid", "white")).to eq([20, true, 255])
    detail = call(:get, "/api/presets/#{save[work]["made"]["presets"].first}")
    expect([detail["needs"].size, detail["preset"]["size"]]).to eq([1, 30])
    strip = Vips::Image.new_from_buffer(call(:get, "/api/strips/#{detail["preset"]["fingerprint"]}/list.png"), "")
    expect(strip[3].avg).to be > 5

    white = bring[Vips::Image.black(20, 20).invert.pngsave_buffer]
    before = counts
    expect(["", "words", scan[0, 60]].map { bring[_1]["error"] }).to all(match(/\Amark\.png .*Nothing was kept/))
    expect(save[white]["message"]).to match(/nothing dark enough/)
    expect(save[work]["message"]).to match(/already here.*“Bollard head 2”/)
    expect(counts).to eq(before)
  end
end
