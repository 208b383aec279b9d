# frozen_string_literal: true

require "support/api"

RSpec.describe "names, and what points to them", :api do
  include ApiHelp

  around do |example|
    @first, = Studio.stand
    Studio::M::Record.transaction do
      sign_in("maren")
      example.run
      raise ActiveRecord::Rollback
    end
  end

  let(:library) { "/api/libraries/#{@first.id}" }
  let(:ids) { @first.presets.in_order.ids }

  def undo(entry) = call(:post, "/api/history/#{entry["id"]}/undo", {})

  def found(query) = call(:get, "#{library}/brushes/ids?q=#{Rack::Utils.escape(query)}")["ids"]

  def put_in(category, presets)
    call(:post, "#{library}/placings", {kind: "category", place: category["id"], preset_ids: presets})
  end

  def tag(name, on, presets = ids.first(2))
    call(:post, "#{library}/taggings", {tag: name, preset_ids: presets, on:})["entry"]
  end

  def tagged(name) = @first.tags.find_by!(name:).taggings.pluck(:preset_id).sort

  it "keep a set that fills itself on what it meant, when one of two categories of a name is renamed" do
    one, other = Array.new(2) { |i|
      call(
        :post,
        "#{library}/categories",
        {name: "ink", parent_id: i.zero? ? nil : call(:post, "#{library}/categories", {name: "Wet"})["id"]}
      )
    }
    put_in(one, ids.first(3))
    put_in(other, ids.last(2))
    set = call(:post, "#{library}/sets", {name: "Inks", query: "category: ink"})
    expect(set["count"]).to eq(5)
    call(:put, "/api/categories/#{one["id"]}", {name: "Line ink"})
    kept = call(:get, "#{library}/sets")["sets"].find { _1["id"] == set["id"] }
    expect([kept["count"], kept["query"], found("set: Inks").size]).to eq([5, "category: ink, Line ink", 5])
    call(:put, "/api/categories/#{other["id"]}", {name: "Pale"})
    call(:post, "#{library}/categories", {name: "ink"}).then { |late| put_in(late, [ids[4]]) }
    kept = call(:get, "#{library}/sets")["sets"].find { _1["id"] == set["id"] }
    expect([kept["count"], kept["query"]]).to eq([5, "category: Pale, Line ink"])
    gone = call(:delete, "/api/categories/#{other["id"]}")["entry"]
    expect(gone["summary"]).to match(/“Inks”, filled from it, no longer finds/)
    undo(gone)
    expect(found("set: Inks").size).to eq(5)
  end

  it "keep a set that fills itself through a merge of tags and its undo" do
    tag("calm", true, ids.first(2))
    tag("still", true, ids[2, 2])
    set = call(:post, "#{library}/sets", {name: "Quiet", query: "tag: calm"})
    calm, still = %w[calm still].map { |name| @first.tags.find_by!(name:) }
    merged = call(:post, "/api/tags/#{calm.id}/merge", {into: still.id})["entry"]
    expect(found("set: Quiet").size).to eq(4)
    # Somebody takes the word meanwhile: the undo finds another by itself.
    still.synonyms.where(name: "calm").delete_all
    tag("calm", true, [ids[5]])
    answer = undo(merged)
    expect([status, answer["kept"]]).to match([200, [/came back as “calm 2”/]])
    expect([tagged("calm 2"), found("set: Quiet").sort, set["count"]]).to eq([ids.first(2).sort, ids.first(2).sort, 2])
  end

  it "refuse what names nothing, and searches that ask for nothing" do
    {
      "category: nowhere" => /no category “nowhere”/,
      "status: nobody" => /no status “nobody”/,
      "used in: nought" => /no set or desk/,
      "; ; ;" => /something to look for/,
      " " => /something to look for/
    }.each do |query, said|
      expect([call(:post, "#{library}/sets", {name: "Odd", query:})["error"], status]).to match([said, 422]), query
    end
  end

  # Unicode Standard Annex 15: both spellings of é are one.
  it "are made one before they are compared" do
    tag("e\u0301cume", true)
    expect(tag("\u00E9cume", true, [ids[4]])["summary"]).to include("écume")
    tag(" sea\tlight\u200B ", true)
    expect(
      [
        @first.tags.where("name LIKE '%cume'").pluck(:name),
        @first.tags.exists?(name: "sea light"),
        found("tag: sea light").size
      ]
    ).to eq([["écume"], true, 2])
    expect(
      [
        call(:post, "#{library}/taggings", {tag: "\u200B \u202E", preset_ids: ids.first(1)})["error"],
        status
      ]
    ).to match([/name/i, 422])
    call(:post, "#{library}/sets", {name: "a b"})
    expect([call(:post, "#{library}/sets", {name: "a  b\n"})["error"], status]).to match([/name is taken/, 409])
    call(:post, "#{library}/renames", {preset_ids: ids.first(1), rules: {name: "Fog\u00A0 \u200Bbank"}})
    expect(Studio::M::Preset.find(ids.first).name).to eq("Fog bank")
    plan = call(:post, "#{library}/renames?plan=true", {preset_ids: [ids[1]], rules: {name: "fog   bank"}})["rows"]
    expect(plan.first["clash"]).to eq("taken")
  end

  it "find one tag only: no tag takes another's synonym, nor the other way round" do
    tag("mist", true)
    tag("rain", true)
    mist, rain = %w[mist rain].map { |name| @first.tags.find_by!(name:) }
    look = {colour: "moss", shape: "drop"}
    call(:put, "/api/tags/#{mist.id}", {name: "mist", synonyms: ["haze"], **look})
    expect(
      [
        call(:put, "/api/tags/#{rain.id}", {name: "Haze", synonyms: [], **look})["error"],
        status
      ]
    ).to match([/“haze” is a synonym of “mist”/, 422])
    expect(
      [
        call(:put, "/api/tags/#{rain.id}", {name: "rain", synonyms: ["HAZE "], **look})["error"],
        status
      ]
    ).to match([/is a synonym of “mist”/, 422])
    expect(
      call(
        :put,
        "/api/tags/#{rain.id}",
        {name: "rain", synonyms: ["mist"], **look}
      )["error"]
    ).to match(/is a tag of its own/)
    expect([mist.reload.name, rain.reload.name, mist.synonyms.pluck(:name)]).to eq(["mist", "rain", ["haze"]])
  end

  it "undo an older tagging or hiding without taking back a newer one" do
    first = tag("calm", true)
    tag("calm", false)
    tag("calm", true, ids.first(1))
    expect(undo(first)["kept"]).to match(
      [/The tag “calm” has been changed or used since; it stays/, /2 brushes had the like done again since/]
    )
    expect(tagged("calm")).to eq([ids.first])
    hide = ->(hidden) { call(:post, "#{library}/hidings", {preset_ids: ids.last(2), hidden:})["entry"] }
    old = hide[true]
    hide[false]
    hide[true]
    expect(
      [
        undo(old)["kept"].size,
        Studio::M::Preset.where(id: ids.last(2)).where.not(hidden_at: nil).count
      ]
    ).to eq([1, 2])
  end

  it "undo a lock under the name of whoever had locked" do
    preset = @first.presets.first
    tove = Studio::M::Person.find_by!(login: "tove")
    preset.update!(locked_by: tove)
    open = call(:put, "/api/presets/#{preset.id}/lock", {locked: false})["entry"]
    undo(open)
    expect(preset.reload.locked_by).to eq(tove)
  end

  it "undo two removed categories in either order to where they hung" do
    [[0, 1], [1, 0]].each do |removed|
      [[0, 1], [1, 0]].each do |back|
        above = call(:post, "#{library}/categories", {name: "Above"})
        pair = [above, call(:post, "#{library}/categories", {name: "Below", parent_id: above["id"]})]
        entries = removed.to_h { |i| [i, call(:delete, "/api/categories/#{pair[i]["id"]}")["entry"]] }
        back.each { undo(entries[_1]) }
        expect([removed, back, @first.categories.find(pair[1]["id"]).parent_id]).to eq([removed, back, above["id"]])
        @first.categories.where(id: pair.map { _1["id"] }.reverse).order(id: :desc).each(&:destroy!)
      end
    end
  end
end
