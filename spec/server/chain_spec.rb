# frozen_string_literal: true

require "support/api"

RSpec.describe "the history", :api do
  before { sign_in("maren") }

  let(:library) { "/api/libraries/#{@first.id}" }
  let(:ids) { @first.presets.in_order.ids }

  def entries(asked = {}) = call(:get, "#{library}/history?#{Rack::Utils.build_query(asked)}")["entries"]

  def undo(entry) = call(:post, "/api/history/#{entry["id"]}/undo", {})

  def summaries = entries.map { _1["summary"] }

  it "writes single changes down, whatever is changed, and takes them back" do
    tag = @first.tags.first
    look = {colour: tag.colour, shape: tag.shape}
    set = call(:post, "#{library}/sets", {name: "Night kit", preset_ids: ids.first(2)})
    standing = call(:post, "#{library}/sets", {name: "Big ones", query: "size: over 20"})
    category = call(:post, "#{library}/categories", {name: "Winter"})
    state = call(:post, "#{library}/statuses", {name: "to look at"})
    call(:post, "#{library}/bundles", {name: "Pack", preset_ids: []})
    {
      "tags/#{tag.id}" => {name: "renamed", synonyms: [], **look},
      "categories/#{category["id"]}" => {name: "Autumn"},
      "statuses/#{state["id"]}" => {name: "seen"},
      "sets/#{set["id"]}/name" => {name: "Day kit"},
      "sets/#{standing["id"]}/name" => {name: "Big ones", query: "size: over 30"}
    }.each { |path, said| call(:put, "/api/#{path}", said) && expect(status).to(eq(200), path) }
    call(:put, "/api/tags/#{tag.id}", {name: "renamed", synonyms: ["other word"], **look})
    told = summaries
    [
      "The synonyms of the tag “renamed” changed",
      "The set “Big ones” changed: query",
      "The set “Night kit” is “Day kit” now",
      "The status “to look at” is “seen” now",
      "The category “Winter” is “Autumn” now",
      "The tag “#{tag.name}” is “renamed” now",
      "The bundle “Pack” made",
      "The status “to look at” made",
      "The category “Winter” made",
      "The set “Big ones” made, filled by “size: over 20”",
      "The set “Night kit” made with 2 brushes"
    ].each { |one| expect(told).to include(one) }
    before = [tag.name, @first.categories.count, @first.brush_sets.count]
    loop do
      open = entries.find { _1["undoable"] } or break
      expect([undo(open)["kept"], open["summary"]]).to eq([[], open["summary"]])
    end
    expect([tag.reload.name, tag.synonyms.count, @first.categories.count + 1, @first.brush_sets.count + 2]).to eq(
      [before[0], 0, before[1], before[2]]
    )
    expect(summaries.first).to match(/\AUndone: The set “Night kit” made/)
  end

  it "says from where each comes, before and after, what would stay, and finds by everything" do
    call(:post, "#{library}/renames", {preset_ids: ids.first(2), rules: {suffix: " x"}})
    call(:post, "#{library}/taggings", {tag: "fresh", preset_ids: ids.first(3)})
    token = Studio::M::AccessToken.issue(Studio::M::Person.find_by!(login: "maren"), "box").last
    header("Authorization", "Bearer #{token}")
    call(:post, "#{library}/hidings", {preset_ids: [ids[3]]})
    header("Authorization", nil)
    expect(entries.first(3).map { _1["via"] }).to eq(["command line", "page", "page"])
    rename = entries({"kind" => "rename"})
    expect(rename.size).to eq(1)
    detail = call(:get, "/api/history/#{rename[0]["id"]}")
    expect(detail["changes"].map { _1.values_at("thing", "what") }.uniq).to eq([%w[brush changed]])
    expect(detail["changes"][0]["columns"].map { _1["name"] }).to include(/\AName .* x/, "current version")
    expect(detail["stays"]).to eq([])
    document = @first.presets.find(ids[0]).current_version.document
    kept = call(:put, "/api/presets/#{ids[0]}/draft", {document: document.merge("paint" => {"flow" => 0.4})})["kept"]
    call(:post, "/api/presets/#{ids[0]}/versions", {kept:, base: 2, note: "softer"})
    expect(summaries.first).to match(/saved as version 3: softer/)
    expect(call(:get, "/api/history/#{rename[0]["id"]}")["stays"]).to contain_exactly(/was saved again since; it stays/)
    expect(@first.presets.find(ids[1]).current_version.number).to eq(2) # only looked
    expect(entries({"preset" => ids[0]}).size).to eq(3)
    expect(entries({"preset" => ids[3]}).map { _1["kind"] }).to eq(["hide"])
    expect(entries({"q" => "FRESH 3"}).size + entries({"via" => "command line"}).size).to eq(2)
    today = Date.today.iso8601
    expect([entries({"from" => today}).size, entries({"till" => "2001-01-01"}).size]).to eq([entries.size, 0])
    expect([call(:get, "#{library}/history?from=soon")["error"], status]).to match([/not a day/, 422])
    person = Studio::M::Person.find_by!(login: "tove").id
    expect(entries({"person" => person})).to eq([])
  end

  it "is paged to any depth, and all of it comes as a file" do
    250.times { |index|
      Studio::M::HistoryEntry.write(@first, @first.memberships.first.person, "tag", "=Number #{index}")
    }
    seen, before = [], nil
    loop do
      page = call(:get, "#{library}/history?limit=100#{"&before=#{before}" if before}")
      seen.concat(page["entries"])
      before = page["entries"].last["place"]
      break unless page["more"]
    end
    expect(seen.map { _1["place"] }).to eq((1..seen.size).to_a.reverse)
    expect(seen.size).to eq(@first.history_entries.count)
    few = call(:get, "#{library}/history?limit=7")
    expect([few["entries"].map { _1["place"] }, few["more"]]).to eq([seen.first(7).map { _1["place"] }, true])
    get("#{library}/history/file?as=csv")
    rows = CSV.parse(last_response.body, headers: true)
    expect(rows.map { _1["place"].to_i }).to eq((1..seen.size).to_a)
    expect(rows[-1]["summary"]).to eq("'=Number 249") # a table program must not take it for a formula
    get("#{library}/history/file?as=jsonl&q=Number+24")
    lines = last_response.body.lines.map { JSON.parse(_1) }
    expect(lines.map { _1["summary"] }).to eq((0..249).map { "=Number #{_1}" }.grep(/24/))
    expect(lines[0]).to include("via" => "job", "changes" => [], "sum" => a_string_matching(/\A\h{64}\z/))
  end

  it "finds what was changed behind the application's back, and only that" do
    check = ->(known = nil) { call(:get, "#{library}/history/check#{"?known=#{known}" if known}") }
    6.times { |index| call(:post, "#{library}/taggings", {tag: "t#{index}", preset_ids: ids.first(2 + index)}) }
    undo(entries[2])
    whole = check.call
    expect(whole).to include("broken" => [], "known" => true, "entries" => @first.history_entries.count)
    # What the night closes is no change, nor is an undo.
    @first.history_entries.order(:place).first.update!(undo: Studio::M::HistoryEntry::CLOSED, touched: [])
    expect(check.call(whole["head"])).to eq(whole)
    third = @first.history_entries.order(:place).third
    sql = ->(text) { Studio::M::Record.connection.execute(text) }
    back = lambda do |text, *why|
      Studio::M::Record.transaction(requires_new: true) do
        sql.call(text)
        expect(check.call["broken"].map { _1.values_at("place", "why") }).to match(why), text
        raise ActiveRecord::Rollback
      end
    end
    words = a_string_matching(/words are not/)
    gone = a_string_matching(/missing/)
    undo = a_string_matching(/undo keeps/)
    back["UPDATE history_entries SET summary = 'nothing' WHERE id = #{third.id}", [3, words]]
    back["UPDATE history_entries SET person_id = person_id + 1 WHERE id = #{third.id}", [3, words]]
    back["UPDATE history_entries SET created_at = created_at - interval '1 s' WHERE id = #{third.id}", [3, words]]
    back["UPDATE history_entries SET undo = '{}' WHERE id = #{third.id}", [3, undo]]
    back["DELETE FROM history_entries WHERE id = #{third.id}", [4, gone]]
    back["UPDATE history_entries SET sum = repeat('0', 64) WHERE id = #{third.id}", [3, words], [4, words]]
    # Taking out the newest leaves no gap, which is what a noted head is for.
    @first.history_entries.order(:place).last.delete
    expect([check.call["broken"], check.call(whole["head"])["known"]]).to eq([[], false])
  end

  # What a later deed took away comes back as it was before the earlier one was done: its own undo says so from then on.
  it "knows of an undo that was put right by another, and still finds it changed by anybody else" do
    check = -> { call(:get, "#{library}/history/check")["broken"] }
    category = call(:post, "#{library}/categories", {name: "Inks"})
    call(:put, "/api/categories/#{category["id"]}", {name: "Oils"})
    call(:delete, "/api/categories/#{category["id"]}")
    removed, renamed = entries.first(2)
    before = Studio::M::HistoryEntry.find(removed["id"]).undo
    undo(renamed)
    expect(Studio::M::HistoryEntry.find(removed["id"]).undo).not_to eq(before)
    expect(check.call).to eq([])
    undo(removed)
    expect([@first.categories.pluck(:name), check.call]).to eq([["Inks"], []])
    Studio::M::HistoryEntry.find(removed["id"]).update!(undo: before)
    expect(check.call.map { _1.values_at("id", "why") }).to match([[removed["id"], /undo keeps/]])
  end

  it "keeps what is of no library for whoever runs the studio" do
    Studio::M::Person.find_by!(login: "maren").update!(owner: true)
    call(:post, "/api/tokens", {name: "box"})
    told = call(:get, "/api/studio/history")["entries"].map { _1["summary"] }
    expect(told.first(2)).to match([/The token “box” made/, /Signed in from a new place, 127\.0\.0\.1/])
    tove = Studio::M::Person.find_by!(login: "tove")
    call(:put, "/api/studio/people/#{tove.id}", {owner: true})
    2.times { call(:put, "/api/studio/people/#{tove.id}", {owner: false}) }
    told = call(:get, "/api/studio/history")["entries"].map { _1["summary"] }
    expect(told.first(2)).to eq(["#{tove.name} runs the studio no more", "#{tove.name} runs the studio too"])
    call(:delete, "/api/session")
    sign_in("maren")
    expect(call(:get, "/api/studio/history")["entries"].count { _1["kind"] == "sign-in" }).to eq(1)
    expect(Fobrel::History::Chain.new(nil).check[:broken]).to eq([])
    sign_in("tove")
    call(:get, "/api/studio/history")
    expect(status).to eq(403)
  end
end
