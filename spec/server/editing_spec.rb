# frozen_string_literal: true

require "support/api"

RSpec.describe "changing brushes", :api do
  before { sign_in("maren") }

  let(:preset) { @first.presets.find_by!(name: "Quay line") }
  let(:path) { "/api/presets/#{preset.id}" }

  def detail = call(:get, path)

  def sized(size, from: detail["document"])
    from.merge("tip" => from["tip"].merge("size" => from["tip"]["size"].merge("base" => size)))
  end

  it "lists brushes in natural order, an underscore first, whatever the language" do
    @second.presets.destroy_all
    ["tip 10", "tip 2", "Äpfel", "apple", "_first", "zebra", "帆"].each do |name|
      value = Fobrel::Core::Preset::Preset.build(
        name,
        {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 9}}}
      )
      Fobrel::Actions::CreatePreset.call(library: @second, value:, person: Studio::M::Person.first)
    end
    names = call(:get, "/api/libraries/#{@second.id}/brushes")["presets"].map { _1["name"] }
    expect(names).to eq(["_first", "Äpfel", "apple", "tip 2", "tip 10", "zebra", "帆"])
  end

  it "keeps a change as a draft of this person's only" do
    call(:put, "#{path}/draft", {document: sized(33)})
    expect(detail["draft"]["document"]["tip"]["size"]["base"]).to eq(33)
    sign_in("tove")
    expect([detail["draft"], detail["preset"]["draft"]]).to eq([nil, false])
  end

  it "drops the draft when the change is taken back by hand" do
    original = detail["document"]
    call(:put, "#{path}/draft", {document: sized(33)})
    expect(call(:put, "#{path}/draft", {document: original})["draft"]).to be_nil
  end

  it "sees no change where a document is only written out in full" do
    sparse = Fobrel::Core::Preset::Preset[{
      "format" => "fobrel.preset/1",
      "id" => SecureRandom.uuid,
      "name" => "Sparse",
      "method" => "dabs",
      "tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 9}}
    }]
    made = Fobrel::Actions::CreatePreset.call(library: @first, value: sparse, person: Studio::M::Person.first)
    full = call(:get, "/api/presets/#{made.id}")["document"]
    expect(full["stroke"]["spacing"]).to eq(0.1)
    expect(call(:put, "/api/presets/#{made.id}/draft", {document: full})["draft"]).to be_nil
    expect(save_tuned("/api/presets/#{made.id}", full, base: 1)["error"]).to match(/Nothing differs from version/)
    expect(made.reload.current_version.document).to eq(sparse.to_h)
  end

  it "saves as the next version and never touches an earlier one" do
    before = detail
    call(:put, "#{path}/draft", {document: sized(33)})
    after = save_tuned(path, sized(33), base: 1, note: "wider")
    expect([status, after["preset"]["version"], after["preset"]["baseline"], after["draft"]]).to eq([201, 2, 1, nil])
    expect(
      after["versions"].map {
        _1.values_at("number", "note", "by")
      }
    ).to eq([[2, "wider", "Maren Oake"], [1, "Received", "Maren Oake"]])
    expect(after["versions"].last["fingerprint"]).to eq(before["preset"]["fingerprint"])
    expect { Studio::M::Version.first.update!(note: "other") }.to raise_error(ActiveRecord::ReadOnlyRecord)
  end

  it "tells the second of two who save over each other, and keeps both" do
    save_tuned(path, sized(33), base: 1)
    sign_in("tove")
    call(:put, "#{path}/draft", {document: sized(50)})
    answer = save_tuned(path, sized(50), base: 1)
    expect([status, answer["error"]]).to match([409, /Maren Oake saved version 2 .* Your change is kept as your draft/])
    expect([detail["preset"]["size"], detail["draft"]["document"]["tip"]["size"]["base"]]).to eq([33, 50])
  end

  it "saves as new brush under the next number, tags along, the old one untouched" do
    first = save_tuned(path, sized(33), as: "variations")
    other = sized(44, from: first["document"])
    second = save_tuned("/api/presets/#{first["preset"]["id"]}", other, as: "variations")
    expect([first, second].map { _1["preset"]["name"] }).to eq(["Quay line 2", "Quay line 3"])
    expect(second["next_name"]).to eq("Quay line 4")
    expect(first["preset"]["tag_ids"]).to eq(detail["preset"]["tag_ids"])
    expect([first["preset"]["document_id"] == preset.document_id, detail["preset"]["size"]]).to eq([false, 15])
  end

  it "refuses a broken document in words and keeps the draft that was there" do
    call(:put, "#{path}/draft", {document: sized(33)})
    broken = [sized(33).merge("tip" => 3), {}, [], "x", nil, sized(33).merge("id" => "../x")]
    answers = broken.map { call(:put, "#{path}/draft", {document: _1}).fetch("error") && status }
    # What is no document at all is refused by the contract, what is a bad one by the core.
    expect(answers).to eq([422, 422, 400, 400, 400, 422])
    expect(
      call(
        :put,
        "#{path}/draft",
        {document: sized("big")}
      )["held"]
    ).to eq(["Size 33 px → big is not possible, so Size stays as it was."])
    expect(detail["draft"]["document"]["tip"]["size"]["base"]).to eq(33)
  end

  it "goes back to the version received, one or all, and undoes that" do
    others = @first.presets.where.not(id: preset.id).in_order.limit(2).to_a
    baseline = detail["preset"]["fingerprint"]
    save_tuned(path, sized(33), base: 1)
    others.each { |one|
      call(
        :put,
        "/api/presets/#{one.id}/draft",
        {document: sized(77, from: call(:get, "/api/presets/#{one.id}")["document"])}
      )
    }
    listed = call(:get, "/api/libraries/#{@first.id}/changed")["presets"]
    expect(listed.map { _1["name"] }).to match_array([preset.name, *others.map(&:name)])
    expect(listed.map { _1["before"] == _1["after"] }).to all(be false)

    entry = call(:post, "/api/libraries/#{@first.id}/reset", {})["entry"]
    expect(
      [
        entry["summary"],
        detail["preset"]["fingerprint"],
        call(:get, "/api/libraries/#{@first.id}/changed")["presets"]
      ]
    ).to eq(["3 brushes reset to the baseline", baseline, []])
    expect(detail["versions"].map { _1["number"] }).to eq([3, 2, 1])

    expect(call(:post, "/api/history/#{entry["id"]}/undo", {})["kept"]).to eq([])
    expect(
      [
        detail["preset"]["size"],
        call(:get, "/api/presets/#{others.first.id}")["draft"]["document"]["tip"]["size"]["base"]
      ]
    ).to eq([33, 77])
    expect(call(:post, "/api/history/#{entry["id"]}/undo", {})["error"]).to match(/undone already/)
  end

  it "keeps what was saved after a reset when that is undone" do
    save_tuned(path, sized(33), base: 1)
    entry = call(:post, "/api/libraries/#{@first.id}/reset", {preset_ids: [preset.id]})["entry"]
    save_tuned(path, sized(60), base: 3)
    expect(call(:post, "/api/history/#{entry["id"]}/undo", {})["kept"]).to match([/saved again since/])
    expect(detail["preset"]["size"]).to eq(60)
  end

  it "tags, and takes that back" do
    ids = @first.presets.limit(3).ids
    entry = call(:post, "/api/libraries/#{@first.id}/taggings", {tag: " Storm ", preset_ids: ids})["entry"]
    tag = call(:get, "/api/libraries/#{@first.id}/tags")["tags"].find { _1["name"] == "Storm" }
    expect(tag["count"]).to eq(3)
    call(:post, "/api/libraries/#{@first.id}/taggings", {tag: "storm", preset_ids: ids.first(1), on: false})
    call(:post, "/api/history/#{entry["id"]}/undo", {})
    expect(Studio::M::Tagging.where(tag_id: tag["id"]).count).to eq(0)
  end

  it "orders a set, tells the slower of two, and loses nobody's brushes" do
    ids = @first.presets.limit(4).ids
    set = call(:post, "/api/libraries/#{@first.id}/sets", {name: "Kit", preset_ids: ids})
    turned = call(:put, "/api/sets/#{set["id"]}", {preset_ids: ids.reverse, before: ids})
    expect(turned["set"]["preset_ids"]).to eq(ids.reverse)
    expect(
      call(
        :put,
        "/api/sets/#{set["id"]}",
        {preset_ids: ids.first(2), before: ids}
      )["error"]
    ).to match(/changed “Kit” meanwhile/)
    call(:post, "/api/history/#{turned["entry"]["id"]}/undo", {})
    expect(call(:get, "/api/libraries/#{@first.id}/sets")["sets"].first["preset_ids"]).to eq(ids)
    expect(call(:post, "/api/libraries/#{@first.id}/sets", {name: "kit"})["error"]).to match(/name is taken/)
  end

  it "serves strips for ever and computes each once" do
    2.times { call(:get, "/api/strips/#{preset.current_version.fingerprint}/peek.png") }
    expect(last_response.headers["cache-control"]).to include("immutable")
    expect(Studio::M::KeptStrip.where(shape: "peek").count).to eq(1)
    expect(
      call(:post, "/api/libraries/#{@first.id}/strip?shape=list", {document: sized(44)})[0,
        4]
    ).to eq("\x89PNG".b)
  end
end
