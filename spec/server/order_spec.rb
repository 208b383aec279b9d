# frozen_string_literal: true

require "support/api"

RSpec.describe "finding and ordering", :api do
  before { sign_in("maren") }

  let(:library) { "/api/libraries/#{@first.id}" }
  let(:ids) { @first.presets.in_order.ids }

  def make(name, about: {}, size: 9, library: @first, **groups)
    value = Fobrel::Core::Preset::Preset.build(
      name,
      {
        "tip" => {"form" => {"kind" => "round"}, "size" => {"base" => size}},
        "about" => about
      }.merge(groups.transform_keys(&:to_s))
    )
    Fobrel::Actions::CreatePreset.call(library:, value:, person: Studio::M::Person.find_by!(login: "maren"))
  end

  def found(q, order: "name", library: @first)
    call(:get, "/api/libraries/#{library.id}/brushes?q=#{Rack::Utils.escape(q)}&order=#{order}").fetch("presets").map {
      _1["name"]
    }
  end

  def undo(entry) = call(:post, "/api/history/#{entry["id"]}/undo", {})

  describe "search" do
    before do
      make(
        "Ängström wash",
        about: {"author" => "Åse Čapek", "notes" => "Für den Nebel", "licence" => "CC-BY-4.0"},
        size: 60
      )
      make("帆 sail", about: {"notes" => "帆布"}, size: 100)
      make("Lantern glow", size: 11.5, paint: {"eraser" => true})
    end

    it "finds words in names, notes, tags and authors, whatever their accents, case and script" do
      expect(
        [
          found("angstrom"),
          found("ANGSTRÖM capek"),
          found("nebel"),
          found("帆布"),
          found("fog lineart")
        ]
      ).to eq([["Ängström wash"], ["Ängström wash"], ["Ängström wash"], ["帆 sail"], []])
      expect(found("lineart").size).to eq(8)
    end

    it "finds what is meant: other forms of a word, categories, synonyms, spellings, and a number as a size" do
      dry = @first.categories.create!(name: "Dry marks")
      below = @first.categories.create!(name: "Broken", parent: dry)
      @first.presets.find_by!(name: "Bollard").update!(category: below)
      make("Sail rope", size: 42)
      make("Colour wash", size: 7)
      @first.tags.find_by!(name: "flat").synonyms.create!(library: @first, name: "gouache")
      expect(found("dry brush")).to eq(["Bollard"])
      expect(found("dry brush")).to eq(found("dry"))
      expect(found("ropes")).to include("Sail rope")
      expect(found("washes")).to include("Ängström wash", "Colour wash")
      expect(found("water color").size + found("color wash").size).to eq(1)
      expect(found("gouache")).to eq(found("tag: flat"))
      expect(found("rope 40")).to eq(["Sail rope"])
      expect(found("rope about 50")).to eq(["Sail rope"])
      expect(found("rope about 90")).to eq([])
      expect(found("brush").size).to eq(@first.presets.shown.where("words LIKE '%brush%'").count)
      expect(found("brushes; size: 42")).to eq(["Sail rope"])
    end

    it "has those first whose names have most of the words" do
      make("A twist of dry kelp", size: 40)
      dry = @first.categories.create!(name: "Dry marks")
      make("Amber kelp", size: 40).update!(category: dry)
      expect(found("dry 40")).to eq(["A twist of dry kelp", "Amber kelp"])
      @first.presets.find_by!(name: "A twist of dry kelp").update!(name: "Z dry")
      make("Kelp 40", size: 40).update!(category: dry)
      expect(found("dry 40").last).to eq("Amber kelp")
    end

    it "shows, while somebody types, six brushes, searches that say it more exactly, and how many each finds" do
      dry = @first.categories.create!(name: "Dry marks")
      @first.presets.where(name: ["Bollard", "Chart nib"]).update_all(category_id: dry.id, size: 9)
      make("Sail rope", size: 42)
      look = ->(line) { call(:get, "#{library}/search?q=#{Rack::Utils.escape(line)}") }
      shown = look["dry 9"]
      chips = shown["chips"].to_h { |chip| ["#{chip["kind"]} #{chip["value"]}", chip] }
      expect(chips.keys).to include("category Dry marks", "size 6.8–11.3 px")
      shown["chips"].each do |chip|
        brushes = call(:get, "#{library}/brushes?limit=1&q=#{Rack::Utils.escape(chip["line"])}")
        expect([chip["line"], brushes["total"]]).to eq([chip["line"], chip["count"]])
      end
      expect(chips["category Dry marks"]["line"]).to eq("9; category: Dry marks")
      expect(chips["size 6.8–11.3 px"]["line"]).to eq("dry; size: about 9")
      expect(look["dry 500"]["chips"].map { _1["line"] }).to eq(["category: Dry marks"])
      all = look["line"]
      expect([all["presets"].map { _1["name"] }, all["total"]]).to eq([found("line").first(6), found("line").size])
      expect(look["about 40"]["presets"].map { _1["name"] }).to eq(["Sail rope"])
      expect(look["lantrn"].values_at("tolerant", "total")).to eq([true, 1])
    end

    it "proposes the value that may have been meant, and says what cannot be understood" do
      @first.tags.find_or_create_by!(name: "sea")
      look = ->(line) { call(:get, "#{library}/search?q=#{Rack::Utils.escape(line)}") }
      expect(look["tag: see"].values_at("lines", "total")).to eq([["tag: sea"], 0])
      expect(look["tag:"]["lines"]).to include("tag: sea")
      expect(look["colour: red"]["problem"]).to match(/There is no term/)
      expect(look[""]).to include("presets" => [], "chips" => [], "problem" => nil)
    end

    it "forgives small mistakes where nothing fits to the letter" do
      page = call(:get, "#{library}/brushes?q=lantrn")
      expect([page["tolerant"], page["presets"].map { _1["name"] }]).to eq([true, ["Lantern glow"]])
      expect(call(:get, "#{library}/brushes?q=lantern")["tolerant"]).to be(false)
      expect(found("xqzzyk")).to eq([])
    end

    it "understands every term, any of several values, and not" do
      category = @first.categories.create!(name: "Washes")
      child = @first.categories.create!(name: "Fogs", parent: category)
      @first.presets.find_by!(name: "帆 sail").update!(category: child)
      @first.presets.find_by!(name: "Lantern glow").update!(
        status: @first.statuses.create!(
          name: "to check",
          colour: "teal",
          shape: "drop"
        )
      )
      kit = @first.brush_sets.create!(name: "Kit").tap {
        _1.put_in_order([@first.presets.find_by!(name: "Bollard").id])
      }
      @first.tags.find_by!(name: "flat").synonyms.create!(library: @first, name: "even")
      expect(found("size: over 50")).to eq(["Ängström wash", "帆 sail"])
      expect(
        [
          found("category: washes"),
          found("status: to check"),
          found("trait: erases"),
          found("set: kit"),
          found("used in: Kit")
        ]
      ).to eq([["帆 sail"], ["Lantern glow"], ["Lantern glow"], ["Bollard"], ["Bollard"]])
      expect(
        [
          found("author: čapek"),
          found("licence: none size: over 90"),
          found("tag: even"),
          found("size: 100, 11.5")
        ]
      ).to eq([["Ängström wash"], ["帆 sail"], ["Bollard"], ["Lantern glow", "帆 sail"]])
      expect(found("not tag: lineart; not trait: erases")).to eq(["Ängström wash", "帆 sail"])
      expect(
        [
          found("changed: today").size,
          found("changed: before 2020-01-01"),
          found("is: untagged").size,
          found("used in: nothing").size
        ]
      ).to eq([11, [], 3, 10])
      expect(found("library: second unit")).to eq([])
      kit.destroy!
    end

    it "knows a person's own states, and nobody else's" do
      bollard = @first.presets.find_by!(name: "Bollard")
      call(:put, "/api/presets/#{bollard.id}/favourite", {on: true})
      call(:put, "/api/presets/#{bollard.id}/recent", {})
      document = call(:get, "/api/presets/#{bollard.id}")["document"]
      call(
        :put,
        "/api/presets/#{bollard.id}/draft",
        {document: document.merge("paint" => document["paint"].merge("flow" => 0.2))}
      )
      expect(["is: favourite", "is: recent", "is: draft"].map { found(_1) }.uniq).to eq([["Bollard"]])
      sign_in("tove")
      expect(["is: favourite", "is: recent", "is: draft"].map { found(_1) }.uniq).to eq([[]])
    end

    it "sees no other library without being a member of it" do
      stranger = Studio::M::Library.create!(name: "Elsewhere")
      make("Secret", library: stranger)
      expect(found("library: elsewhere")).to eq([])
    end

    it "says what is unclear, and never breaks" do
      expect(call(:get, "#{library}/brushes?q=colour:%20red")["error"]).to match(/no term “colour:”/)
      [
        "%",
        "_",
        "'; DROP TABLE presets",
        "tag: '",
        "\\",
        "size: 1 to 2; )",
        "%F0%9F%96%8C",
        "set: ; tag: a",
        "a" * 499
      ].each do |line|
        call(:get, "#{library}/brushes?q=#{Rack::Utils.escape(line)}")
        expect(status).to satisfy { [200, 422].include?(_1) }
      end
      expect(Studio::M::Preset.count).to eq(11)
    end

    it "orders by name, change, size, colour and use; pages without gaps" do
      expect(found("", order: "size").last).to eq("帆 sail")
      expect(found("", order: "changed").first(3)).to match_array(["Ängström wash", "帆 sail", "Lantern glow"])
      @first.brush_sets.create!(name: "Kit").put_in_order([ids.last])
      expect(found("", order: "use").first).to eq(@first.presets.find(ids.last).name)
      pages = (0..3).flat_map { |i|
        call(:get, "#{library}/brushes?offset=#{i * 3}&limit=3")["presets"].map {
          _1["id"]
        }
      }
      expect(pages).to eq(call(:get, "#{library}/brushes/ids")["ids"])
    end

    it "counts facets of what was found" do
      facets = call(:get, "#{library}/facets?q=#{Rack::Utils.escape("tag: lineart")}")
      lineart = @first.tags.find_by!(name: "lineart")
      expect([facets["total"], facets["tags"].find { _1["key"] == lineart.id.to_s }["count"]]).to eq([8, 8])
      expect(facets["states"].find { _1["key"] == "untagged" }["count"]).to eq(0)
      expect(facets["traits"].find { _1["key"] == "answers to pressure" }["count"]).to be > 3
      expect(facets["traits"].map { _1["key"] }.grep(/\A(answers to|shifts|reel of)\z/)).to eq([])
    end
  end

  # Outside reference: the numeric ordering of the Unicode collation (CLDR's kn), as ICU gives it.
  it "orders names as ICU's numeric collation does" do
    @second.presets.destroy_all
    names = [
      "tip 10",
      "tip 9",
      "tip 010",
      "_zz",
      "Zebra",
      "éclair",
      "eclipse",
      "tip2b",
      "tip 2",
      "10 a",
      "9 b",
      "ß",
      "ss",
      "Ω",
      "帆"
    ]
    names.each { make(_1, library: @second) }
    list = names.map { Studio::M::Record.connection.quote(_1) }.join(",")
    icu = Studio::M::Record.connection.select_values(
      "SELECT n FROM unnest(ARRAY[#{list}]) n ORDER BY n COLLATE natural_order, n"
    )
    expect(found("", library: @second)).to eq(icu)
    expect(icu.values_at(0, 1, 2)).to eq(["_zz", "9 b", "10 a"])
    expect(icu.index("tip 2")).to be < icu.index("tip 9")
    expect(icu.index("tip 9")).to be < icu.index("tip 10")
  end

  describe "categories, statuses, tags" do
    it "hangs many on a category or a status, and undoes it to where each was" do
      washes = call(:post, "#{library}/categories", {name: "Washes"})
      inks = call(:post, "#{library}/categories", {name: "Inks", parent_id: washes["id"]})
      call(:post, "#{library}/placings", {preset_ids: ids.first(2), kind: "category", place: inks["id"]})
      entry = call(:post, "#{library}/placings", {preset_ids: ids, kind: "category", place: washes["id"]})["entry"]
      expect(found("category: inks")).to eq([])
      undo(entry)
      expect([found("category: inks").size, @first.presets.where.not(category_id: nil).count]).to eq([2, 2])
      expect(
        call(
          :put,
          "/api/categories/#{washes["id"]}",
          {name: "Washes", parent_id: inks["id"]}
        )["error"]
      ).to match(/never in a circle/)
      call(:delete, "/api/categories/#{inks["id"]}")
      expect(found("category: washes").size).to eq(2)
    end

    it "removes what brushes are sorted by, and brings it back as it was, keeping what was done since" do
      washes, inks, pale = [["Washes", nil], ["Inks", "Washes"], ["Pale", "Inks"]].map { |name, parent|
        call(:post, "#{library}/categories", {name:, parent_id: @first.categories.find_by(name: parent)&.id})
      }
      checked = call(:post, "#{library}/statuses", {name: "Checked"})
      call(:post, "#{library}/placings", {preset_ids: ids.first(4), kind: "category", place: inks["id"]})
      call(:post, "#{library}/placings", {preset_ids: ids.first(4), kind: "status", place: checked["id"]})
      tag = @first.tags.create!(name: "spare", colour: "moss", shape: "drop").tap { |one|
        one.synonyms.create!(library: @first, name: "extra")
      }
      bundle = call(:post, "#{library}/bundles", {name: "Kit", preset_ids: ids.first(2)})
      call(:put, "/api/bundles/#{bundle["id"]}", {cover: ids[1], sections: {ids[0] => "Wet"}})
      export_template = call(
        :post,
        "#{library}/export-templates",
        {name: "Sizes", scope: "set", file: "a.csv", body: "x"}
      )
      whole = -> {
        %w[order tags bundles export_templates].map {
          call(:get, "#{library}/#{_1}")
        } + [@first.presets.order(:id).pluck(:category_id, :status_id)]
      }
      before = whole.call
      removed = {
        "categories" => inks,
        "statuses" => checked,
        "tags" => {"id" => tag.id},
        "bundles" => bundle,
        "export-templates" => export_template
      }.map { |plural, one|
        call(:delete, "/api/#{plural}/#{one["id"]}")["entry"]
      }
      expect(
        [
          removed.map {
            _1["summary"]
          }.first,
          found("category: washes").size
        ]
      ).to eq(["The category “Inks” removed; its brushes stay", 4])
      expect(@first.categories.find(pale["id"]).parent_id).to eq(washes["id"])
      removed.each { undo(_1) }
      expect(whole.call).to eq(before)

      entry = call(:delete, "/api/categories/#{inks["id"]}")["entry"]
      call(:post, "#{library}/placings", {preset_ids: [ids[0]], kind: "category", place: pale["id"]})
      undo(entry)
      expect(@first.presets.find(ids.first(4)).map { _1.category.name }).to eq(%w[Pale Inks Inks Inks])
      entry = call(:delete, "/api/tags/#{tag.id}")["entry"]
      @first.tags.create!(name: "Spare", colour: "moss", shape: "bar")
      expect(call(:post, "/api/history/#{entry["id"]}/undo", {})["error"]).to match(/already here/)
    end

    it "renames tags, gives them synonyms, merges two and parts them again" do
      lineart, flat = %w[lineart flat].map { |name| @first.tags.find_by!(name:) }
      changed = call(
        :put,
        "/api/tags/#{lineart.id}",
        {name: "line art", colour: "moss", shape: "drop", synonyms: ["inking", " Inking ", "outline"]}
      )
      expect(changed.values_at("name", "colour", "synonyms")).to eq(["line art", "moss", %w[inking outline]])
      call(:post, "#{library}/taggings", {tag: "OUTLINE", preset_ids: [ids.first]})
      expect(@first.tags.where(name: "outline")).to be_empty
      expect(
        call(
          :put,
          "/api/tags/#{lineart.id}",
          {name: "flat", colour: "moss", shape: "drop", synonyms: []}
        )["error"]
      ).to match(/Merge the two/)
      had = flat.taggings.count
      entry = call(:post, "/api/tags/#{flat.id}/merge", {into: lineart.id})["entry"]
      expect([Studio::M::Tag.exists?(flat.id), found("tag: flat").size]).to eq([false, 8])
      undo(entry)
      expect(@first.tags.find_by!(name: "flat").taggings.count).to eq(had)
      expect(call(:delete, "/api/tags/#{lineart.id}")["error"]).to match(/is used by 8 brushes/)
    end
  end

  describe "sets" do
    it "keeps sections and order, tells the later of two, and loses nothing" do
      set = call(:post, "#{library}/sets", {name: "Kit", preset_ids: ids.first(4), sections: {ids[2] => "Night"}})
      expect([set["preset_ids"], set["sections"]]).to eq([ids.first(4), {ids[2].to_s => "Night"}])
      call(:put, "/api/sets/#{set["id"]}", {preset_ids: ids.first(5), before: ids.first(4)})
      later = call(:put, "/api/sets/#{set["id"]}", {preset_ids: ids.first(4).reverse, before: ids.first(4)})
      expect([status, later["error"]]).to match([409, /Somebody changed “Kit” meanwhile/])
      now = call(:get, "#{library}/sets")["sets"].find { _1["id"] == set["id"] }
      expect([now["preset_ids"], now["sections"]]).to eq([ids.first(5), {ids[2].to_s => "Night"}])
      entry = call(:delete, "/api/sets/#{set["id"]}")["entry"]
      undo(entry)
      again = call(:get, "#{library}/sets")["sets"].find { _1["name"] == "Kit" }
      expect([again["preset_ids"], again["sections"]]).to eq([ids.first(5), {ids[2].to_s => "Night"}])
    end

    it "keeps the places of hidden brushes, whatever is done with the others" do
      set = @first.brush_sets.create!(name: "Kit").tap { _1.put_in_order(ids.first(5), {ids[2] => "Night"}) }
      call(:post, "#{library}/hidings", {preset_ids: ids.values_at(0, 2)})
      put = ->(now, before) { call(:put, "/api/sets/#{set.id}", {preset_ids: now, before:, sections: {}})["set"] }
      expect(put[ids.values_at(4, 3, 1), ids.values_at(1, 3, 4)]["preset_ids"]).to eq(ids.values_at(4, 3, 1))
      expect(put[ids.values_at(4, 1, 6), ids.values_at(4, 3, 1)]["preset_ids"]).to eq(ids.values_at(4, 1, 6))
      expect(
        [
          set.preset_ids_in_order,
          set.section_by_preset
        ]
      ).to eq([ids.values_at(0, 4, 1, 2, 6), {ids[2] => "Night"}])
      expect(
        call(
          :put,
          "/api/sets/#{set.id}",
          {preset_ids: [], before: ids.values_at(4, 1)}
        )["error"]
      ).to match(/meanwhile/)
    end

    it "splits a set in one go, or not at all" do
      set = @first.brush_sets.create!(name: "Kit").tap { _1.put_in_order(ids.first(5), {ids[3] => "Night"}) }
      split = ->(before) { call(:post, "/api/sets/#{set.id}/split", {name: "Rest", preset_ids: ids[3, 2], before:}) }
      expect(
        [
          split[ids.first(4)]["error"],
          @first.brush_sets.pluck(:name)
        ]
      ).to match([/Somebody changed “Kit” meanwhile/, ["Kit"]])
      done = split[ids.first(5)]
      expect(
        [
          done["set"].values_at("preset_ids", "sections"),
          set.preset_ids_in_order
        ]
      ).to eq([[ids[3, 2], {ids[3].to_s => "Night"}], ids.first(3)])
      undo(done["entry"])
      expect(
        [
          set.preset_ids_in_order,
          set.section_by_preset,
          @first.brush_sets.pluck(:name)
        ]
      ).to eq([ids.first(5), {ids[3] => "Night"}, ["Kit"]])
      done = split[ids.first(5)]
      @first.brush_sets.find_by!(name: "Rest").put_in_order([ids[4]])
      expect(
        call(
          :post,
          "/api/history/#{done["entry"]["id"]}/undo",
          {}
        )["kept"]
      ).to match([/“Rest” has been changed since/])
    end

    it "lets searches that are kept follow new names" do
      lineart = @first.tags.find_by!(name: "lineart")
      category, status = %w[categories statuses].map { |kind| call(:post, "#{library}/#{kind}", {name: "Old"}) }
      kit = call(:post, "#{library}/sets", {name: "Kit", preset_ids: ids.first(2)})
      call(:post, "#{library}/taggings", {tag: "x", preset_ids: ids.first(1)})
      kept = call(
        :post,
        "#{library}/sets",
        {name: "All", query: "tag: LINEART, x; category: old; status: old; set: kit; used in: Kit"}
      )
      call(:put, "/api/tags/#{lineart.id}", {name: "line; art", colour: "moss", shape: "drop", synonyms: []})
      call(:put, "/api/categories/#{category["id"]}", {name: "Inks, pale"})
      call(:put, "/api/statuses/#{status["id"]}", {name: "New"})
      call(:put, "/api/sets/#{kit["id"]}/name", {name: "First kit"})
      expect(@first.brush_sets.find(kept["id"]).query).to eq(
        'tag: "line; art", x; category: "Inks, pale"; status: New; set: First kit; used in: ' \
          "First kit"
      )
    end

    it "fills an automatic set from its search" do
      set = call(:post, "#{library}/sets", {name: "Big", query: "size: over 25"})
      expect([set["count"], set["preset_ids"]]).to eq([found("size: over 25").size, []])
      expect(found("set: Big")).to eq(found("size: over 25"))
      expect(call(:put, "/api/sets/#{set["id"]}", {preset_ids: ids})["error"]).to match(/fills itself/)
      expect(call(:post, "#{library}/sets", {name: "Odd", query: "nonsense: x"})["error"]).to match(/no term/)
      expect(call(:post, "#{library}/sets", {name: "Loop", query: "set: Loop"})["error"]).to match(/no set “loop” here/)
      expect(
        call(
          :put,
          "/api/sets/#{set["id"]}/name",
          {name: "Big", query: "set: Big"}
        )["error"]
      ).to match(/filled from itself/)
      other = call(:post, "#{library}/sets", {name: "Through", query: "set: Big"})
      expect(
        call(
          :put,
          "/api/sets/#{set["id"]}/name",
          {name: "Big", query: "set: Through; size: 3"}
        )["error"]
      ).to match(/filled from itself/)
      expect([other["count"], found("set: Through")]).to eq([set["count"], found("size: over 25")])
    end
  end

  describe "many at once" do
    it "renames by rules, marks clashes and renames nothing then, and undoes it" do
      rules = {find: "line", replace: "stroke", prefix: "S ", number: {start: 1, width: 2}}
      plan = call(:post, "#{library}/renames?plan=true", {preset_ids: ids, rules:})["rows"]
      expect(plan.first["to"]).to match(/\AS .* 01\z/)
      entry = call(:post, "#{library}/renames", {preset_ids: ids, rules:})["entry"]
      expect([entry["summary"], found("").all? { _1.start_with?("S ") }]).to eq(["8 brushes renamed", true])
      expect(@first.presets.first.current_version.document["name"]).to eq(@first.presets.first.name)
      undo(entry)
      expect(found("").none? { _1.start_with?("S ") }).to be(true)
      named = call(
        :post,
        "#{library}/renames?plan=true",
        {preset_ids: ids.first(3), rules: {name: "Rope", number: {start: 1, width: 2}}}
      )
      expect(named["rows"].map { _1["to"] }).to eq(["Rope 01", "Rope 02", "Rope 03"])
      clash = call(
        :post,
        "#{library}/renames",
        {
          preset_ids: ids.first(2),
          rules: {find: @first.presets.find(ids[0]).name, replace: @first.presets.find(ids[2]).name}
        }
      )
      expect(
        [
          status,
          clash["error"]
        ]
      ).to match([422, /cannot be a new name: another brush here has it\. Nothing was renamed/])
    end

    it "hides, restores, duplicates; deletes permanently only what is hidden and used nowhere" do
      entry = call(:post, "#{library}/hidings", {preset_ids: ids.first(2)})["entry"]
      expect(
        [
          found("").size,
          call(:get, "#{library}/hidden")["presets"].map {
            _1["id"]
          }
        ]
      ).to match([6, match_array(ids.first(2))])
      undo(entry)
      expect(found("").size).to eq(8)
      entry = call(:post, "#{library}/copies", {preset_ids: ids.first(2)})["entry"]
      expect([found("").size, found("tag: lineart").size]).to eq([10, 10])
      undo(entry)
      expect(found("").size).to eq(8)
      expect(
        call(
          :delete,
          "#{library}/hidden",
          {preset_ids: [ids[0]]}
        )["error"]
      ).to match(/Only hidden brushes can be deleted/)
      set = @first.brush_sets.create!(name: "Kit").tap { _1.put_in_order([ids[0]]) }
      call(:post, "#{library}/hidings", {preset_ids: [ids[0]]})
      expect(
        call(
          :delete,
          "#{library}/hidden",
          {preset_ids: [ids[0]]}
        )["error"]
      ).to match(/Still used: .*set Kit.*Nothing was deleted/)
      set.destroy!
      sign_in("tove")
      call(:delete, "#{library}/hidden", {preset_ids: [ids[0]]})
      expect(status).to eq(403)
      sign_in("maren")
      expect(
        call(
          :delete,
          "#{library}/hidden",
          {preset_ids: [ids[0]]}
        )["entry"]["summary"]
      ).to match(/1 brush deleted permanently/)
      expect(@first.presets.count).to eq(7)
    end

    it "finds duplicates and near-duplicates, keeps one, and undoes it" do
      original = @first.presets.find_by!(name: "Quay line")
      near = original.current_version.value
      make("Same again", **{}).tap { |p|
        Fobrel::Actions::AddVersion.call(
          preset: p,
          value: Fobrel::Core::Preset::Preset[near.to_h.merge("id" => p.document_id, "name" => "Same again")],
          person: nil
        )
      }
      make("Nearly").tap { |p|
        Fobrel::Actions::AddVersion.call(
          preset: p,
          value: Fobrel::Core::Preset::Preset[near.to_h.merge(
            "id" => p.document_id,
            "name" => "Nearly",
            "paint" => near["paint"].merge("opacity" => 0.998)
          )],
          person: nil
        )
      }
      got = nil
      20.times { (got = call(:get, "#{library}/duplicates"))["ready"] ? break : nil }
      expect(
        got["groups"].map {
          [
            _1["kind"],
            _1["presets"].map { |p|
              p["name"]
            }.sort
          ]
        }
      ).to include(["identical", ["Quay line", "Same again"]])
      alike = got["groups"].find { _1["kind"] == "alike" }
      expect(
        [
          alike["presets"].map { _1["name"] },
          alike["differences"].map {
            _1["title"]
          }
        ]
      ).to match([include("Nearly"), include("Opacity")])
      same = @first.presets.find_by!(name: "Same again")
      set = @first.brush_sets.create!(name: "Kit").tap { _1.put_in_order([ids[1], same.id, original.id]) }
      entry = call(:post, "#{library}/duplicates", {keep: original.id, preset_ids: [original.id, same.id]})["entry"]
      expect([set.preset_ids_in_order, found("").include?("Same again")]).to eq([[ids[1], original.id], false])
      undo(entry)
      expect([set.preset_ids_in_order, found("").include?("Same again")]).to eq([[ids[1], same.id, original.id], true])
    end

    it "compares, and counts what the library holds" do
      rows = call(:post, "#{library}/differences", {preset_ids: ids.first(3)})
      expect(
        [
          rows["presets"].map { _1["id"] },
          rows["rows"].map {
            _1["title"]
          }
        ]
      ).to match([ids.first(3), include("Size")])
      sea, land = %w[Sea Land].map { |name| @first.categories.create!(name:) }
      {sea => ids.first(3), land => [ids[3]]}.each { |category, some|
        Studio::M::Preset.where(id: some).update_all(
          category_id: @first.categories.create!(
            name: "Dry",
            parent: category
          ).id
        )
      }
      overview = call(:get, "#{library}/overview")
      expect(
        overview["categories"].map {
          _1.values_at("name", "count")
        }
      ).to eq([["no category", 4], ["Sea / Dry", 3], ["Land / Dry", 1]])
      expect(
        [
          overview["total"],
          overview["sizes"].sum { _1["count"] },
          overview["gaps"].find {
            _1["query"] == "used in: nothing"
          }["count"]
        ]
      ).to eq([8, 8, 8])
    end

    it "counts a brush of just the size of a step with the step below it" do
      sizes = [10, 10.5, 20, 40, 80.5, 320, 321, 2000]
      @first.presets.order(:id).zip(sizes) { |preset, size| preset.update_columns(size:) }
      expect(call(:get, "#{library}/overview")["sizes"].map { _1.values_at("name", "count") }).to eq(
        [
          ["to 10 px", 1],
          ["10–20 px", 2],
          ["20–40 px", 1],
          ["40–80 px", 0],
          ["80–160 px", 1],
          ["160–320 px", 1],
          ["over 320 px", 2]
        ]
      )
    end

    it "prints proof sheets as PDF and PNG, of any size, ground and name" do
      make("Ωmega Фон — « é »", about: {"notes" => "x" * 400})
      list = @first.presets.ids
      pdf = exported(
        @first,
        {
          kind: "proof",
          of: {preset_ids: list},
          name: "Sheet",
          options: {page: "A4", columns: 2, ground: "grey", shown: %w[size traits notes keys]}
        }
      )
      expect(pdf).to start_with("%PDF")
      pages = Vips::Image.pdfload_buffer(pdf, dpi: 40)
      expect(
        [
          pages.get("n-pages"),
          pages.width,
          pages.height
        ]
      ).to match([1, be_within(3).of(331), be_within(3).of(468)])
      zip = exported(
        @first,
        {
          kind: "proof",
          of: {preset_ids: list},
          options: {format: "png", page: "Letter", landscape: true, columns: 1, ground: "black"}
        }
      )
      names = Zip::File.open_buffer(StringIO.new(zip)).map(&:name)
      expect(names).to eq(
        [
          "proof-01.png",
          "proof-02.png",
          "proof-03.png",
          "proof-04.png",
          "proof-05.png"
        ].first(names.size)
      )
      expect(names.size).to be > 1
      expect(
        call(
          :post,
          "#{library}/exports",
          {kind: "proof", of: {preset_ids: []}}
        )["error"]
      ).to match(/No brushes selected/)
    end
  end
end
