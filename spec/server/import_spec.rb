# frozen_string_literal: true

require "support/api"
require "bagit"

# What becomes of a delivery: decisions, places, reports, and the way back.
RSpec.describe "Import", :api do
  before { sign_in("maren") }

  let(:presets) { @first.presets.in_order.to_a }
  let(:packed) { package(@first, presets) }

  # The library as its users see it: strokes, names, places, what is hidden.
  def state(library = @second)
    {
      shown: library.presets.shown.reload.map { [_1.name, _1.fingerprint, _1.current_version.number] }.sort,
      hidden: library.presets.where.not(hidden_at: nil).map {
        [_1.name, _1.fingerprint]
      }.sort,
      sets: library.brush_sets.reload.to_h { |set| [set.name, set.preset_ids_in_order] },
      tags: Studio::M::Tagging.joins(:tag).where(tags: {library_id: library.id}).count,
      export_templates: library.export_templates.count
    }
  end

  def undo(entry) = call(:post, "/api/history/#{entry["id"]}/undo", {})["kept"]

  # The same brushes, tuned: as the maker's next version of each, under the same identity.
  def tuned(values, version:, **groups)
    items = values.map { |value|
      Fobrel::Core::Package::Bundle::Item.new(
        preset: Fobrel::Core::Preset::Preset[value.to_h.merge(groups.transform_keys(&:to_s))], version:
      )
    }
    Fobrel::Core::Package::Writer.zip(
      Fobrel::Core::Package::Bundle.build(
        items:,
        assets: Studio::M::Asset.files(values.flat_map(&:needs))
      )
    )
  end

  it "takes newer versions as next ones, leaves older ones, and goes back by fingerprint and order" do
    values = presets.first(3).map { _1.current_version.value }
    import_brushes(@second, packed)
    newer = tuned(values, version: 4, stroke: {"spacing" => 0.71})
    before = state
    done = import_brushes(@second, newer)
    expect(done["report"]["lines"].map { _1.values_at("state", "decision") }.uniq).to eq([%w[newer version]])
    expect(@second.presets.find_by!(document_id: values[0].id).versions.map(&:number)).to eq([1, 2])
    expect(
      import_brushes(@second, packed)["report"]["lines"].map {
        _1["state"]
      }.tally
    ).to eq("older" => 3, "identical" => 5)
    expect(import_brushes(@second, newer)["entry"]).to be_nil
    expect([undo(done["entry"]), state]).to eq([[], before])
  end

  it "keeps a tuned brush of one's own when the maker's next version comes, and both ends are found again" do
    import_brushes(@second, packed)
    own = @second.presets.find_by!(name: presets[0].name)
    Fobrel::Actions::AddVersion.call(
      preset: own,
      person: Studio::M::Person.first,
      value: own.current_version.value.with("stroke", {"spacing" => 0.77})
    )
    mine = own.reload.fingerprint
    done = import_brushes(@second, tuned([presets[0].current_version.value], version: 9, stroke: {"spacing" => 0.33}))
    expect(
      done["report"]["lines"].map {
        _1.values_at("state", "decision", "becomes")
      }
    ).to eq([["apart", "both", "#{own.name} 2"]])
    expect(own.reload.fingerprint).to eq(mine)
  end

  it "replaces only when told, hides what is replaced, fills its places, and brings it back whole" do
    import_brushes(@second, packed)
    here = @second.presets.find_by!(name: presets[0].name)
    set = @second.brush_sets.create!(name: "Own").tap {
      _1.put_in_order([@second.presets.find_by!(name: presets[1].name).id, here.id], {here.id => "Lines"})
    }
    desk = @second.desks.create!(name: "Desk", folder: "desk-own").tap { _1.put_in_order([here.id]) }
    other = Fobrel::Core::Preset::Preset.build(
      here.name,
      {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 61}}}
    )
    before = [state, Studio::M::Desk.find(desk.id).preset_ids_in_order, set.section_by_preset]
    done = import_brushes(@second, tuned([other], version: 1), choices: {"all" => {"named" => "replace"}})
    fresh = @second.presets.shown.find_by!(name: here.name)
    expect(
      [
        fresh.fingerprint,
        set.preset_ids_in_order.last,
        set.section_by_preset,
        Studio::M::Desk.find(desk.id).preset_ids_in_order
      ]
    ).to eq([other.fingerprint, fresh.id, {fresh.id => "Lines"}, [fresh.id]])
    expect([here.reload.hidden_at.nil?, done["entry"]["summary"]]).to match([false, /1 in the place of another/])
    expect(undo(done["entry"])).to eq([])
    expect([state, Studio::M::Desk.find(desk.id).preset_ids_in_order, set.section_by_preset]).to eq(before)
  end

  it "keeps both of two files of one name" do
    import = call(:post, "/api/libraries/#{@second.id}/imports", {name: "two"})
    [0.4, 0.9].each { |tone|
      call(
        :put,
        "/api/imports/#{import["id"]}/files?name=a.png",
        Fobrel::Core::Tip::Cover[[[1, tone], [0, 1]]].to_png
      )
    }
    call(:post, "/api/imports/#{import["id"]}/read", {})
    plan = call(:get, "/api/imports/#{import["id"]}")
    expect(
      [
        plan["items"].map { _1["name"] },
        plan["items"].map {
          _1["fingerprint"]
        }.uniq.size
      ]
    ).to eq([["a", "a (2)"], 2])
  end

  it "puts what comes where it was told: set, place, category, tags; or in place of what a set holds" do
    category = @second.categories.create!(name: "Guests")
    own = Fobrel::Demo::Studio.import_brushes(@second, Studio::M::Person.first, Studio.drawn[20, 2]).values
    set = @second.brush_sets.create!(name: "Brushes chart").tap { _1.put_in_order(own.map(&:id)) }
    before = state
    done = import_brushes(
      @second,
      package(@first, presets.first(2)),
      choices: {
        "where" => {
          "set" => "brushes chart",
          "place" => own[1].id.to_s,
          "category" => category.id,
          "tags" => ["guest"],
          "sets" => false
        }
      }
    )
    fresh = @second.presets.where.not(id: own.map(&:id)).in_order
    expect(set.preset_ids_in_order).to eq([own[0].id, *fresh.map(&:id), own[1].id])
    expect(fresh.map { [_1.category_id, _1.tags.map(&:name).include?("guest")] }.uniq).to eq([[category.id, true]])
    expect([undo(done["entry"]), state]).to eq([[], before])
    expect(@second.tags.exists?(name: "guest")).to be(false)

    @second.desks.create!(name: "Desk", folder: "desk-w").put_in_order([own[0].id])
    done = import_brushes(
      @second,
      package(@first, presets.first(2)),
      choices: {"where" => {"set" => "Brushes chart", "mode" => "replace"}}
    )
    expect(Studio::M::Preset.find(set.preset_ids_in_order).map(&:name)).to match_array(presets.first(2).map(&:name))
    expect(own.map { _1.reload.hidden_at.nil? }).to eq([true, false]) # the first is in a start-up plan
    expect([undo(done["entry"]), state]).to eq([[], before])
  end

  it "holds an import for a decision, plans again when the library changed, and refuses a plan that is old" do
    plan = deliver(@second, {"kit.zip" => package(@first, presets.first(2))})
    Fobrel::Demo::Studio.import_brushes(
      @second,
      Studio::M::Person.first,
      [Studio.drawn[30]]
    ).values.first.then do |stranger|
      Fobrel::Actions::AddVersion.call(
        preset: stranger,
        person: Studio::M::Person.first,
        value: stranger.current_version.value.with("name", presets[0].name)
      )
    end
    expect(apply(plan)["error"]).to match(/changed since this preview.*Nothing was imported/)
    expect([status, @second.presets.count]).to eq([409, 1])
    plan = call(:get, "/api/imports/#{plan["id"]}")
    expect(plan["items"].map { _1.values_at("name", "state") }).to include([presets[0].name, "named"])
    item = plan["items"].find { _1["state"] == "named" }
    plan = call(:put, "/api/imports/#{plan["id"]}", {"items" => {item["id"].to_s => "leave"}})
    expect(plan["items"].map { _1["decision"] }.tally).to eq("leave" => 1, "take" => 1)
    expect(call(:get, "/api/imports/#{plan["id"]}/strips/#{item["id"]}.png")[0, 4]).to eq("\x89PNG".b)
    apply(plan)
    expect(@second.presets.count).to eq(2)
    expect(apply(plan)["error"]).to match(/already been decided/)
    call(:delete, "/api/imports/#{plan["id"]}")
    expect(call(:get, "/api/libraries/#{@second.id}/imports")["imports"]).to eq([])
  end

  it "keeps nothing of what was discarded, or left out: no picture, no brush" do
    pictures = ["anchor", "gull"].map { Fobrel::Demo::Drawing.tip(_1, 40) }
    before = [Studio::M::Asset.count, state]
    night = lambda do
      Studio::M::Asset.where("created_at > ?", 1.hour.ago).update_all(created_at: 31.days.ago)
      Studio::M::Cleaning.create!.run
      Studio::M::Asset.count
    end
    plan = deliver(@second, {"a.png" => pictures[0], "b.png" => pictures[1]})
    expect(plan["groups"]).to eq([{"group" => "these files", "way" => "each", "count" => 2}])
    expect(night.call).to eq(before[0] + 2)
    call(:delete, "/api/imports/#{plan["id"]}")
    expect(
      [
        Studio::M::ImportPart.count,
        Studio::M::ImportChunk.count,
        Studio::M::ImportItem.count,
        night.call,
        state
      ]
    ).to eq([0, 0, 0, *before])
    import_brushes(
      @second,
      Fobrel::Core::Package::Writer.pack({"a.png" => pictures[0], "b.png" => pictures[1]}),
      file: "pair.zip",
      choices: {"ways" => {"pair.zip" => "reel"}}
    )
    expect(@second.presets.map { [_1.name, _1.current_version.value.frames.size] }).to eq([["pair", 2]])
  end

  it "carries export templates along, keeps those of the same name, and takes them out again" do
    call(:post, "/api/libraries/#{@first.id}/export-templates", Fobrel::Core::Package::ExportTemplate.examples[0].to_h)
    call(:post, "/api/libraries/#{@first.id}/export-templates", Fobrel::Core::Package::ExportTemplate.examples[1].to_h)
    @second.export_templates.create!(Fobrel::Core::Package::ExportTemplate.examples[0].to_h.merge("body" => "our own"))
    done = import_brushes(@second, package(@first, presets.first(1), export_templates: true))
    expect(
      @second.export_templates.order(:id).map {
        [_1.name, _1.body == "our own"]
      }
    ).to eq([["Settings as CSV", true], ["One INI file a brush", false]])
    expect([undo(done["entry"]), @second.export_templates.count]).to eq([[], 1])
  end

  it "says what it kept when something was changed or used since" do
    done = import_brushes(@second, packed)
    used = @second.presets.in_order.first
    @second.bundles.create!(name: "B").put_in_order([used.id])
    kept = undo(done["entry"])
    expect([kept, @second.presets.count]).to match([[/“#{used.name}” has been changed or used since; it stays/], 1])
  end

  it "leaves what is locked alone unless a lead says otherwise" do
    import_brushes(@second, packed)
    here = @second.presets.find_by!(name: presets[0].name)
    here.update!(locked_by: Studio::M::Person.find_by(login: "maren"))
    package = tuned([presets[0].current_version.value], version: 5, stroke: {"spacing" => 0.5})
    Studio::M::Membership.find_by!(
      library: @second,
      person: Studio::M::Person.find_by(login: "tove")
    ).update!(role: "artist")
    sign_in("tove")
    expect(
      deliver(@second, {"p.zip" => package})["items"].map {
        _1.values_at("state", "decision", "choices")
      }
    ).to eq([["newer", "both", %w[both leave]]])
  end

  it "packs three of many with their needs and nothing else, backs up everything under its date, and does it again" do
    three = presets.values_at(1, 3, 5)
    bytes = package(@first, three, name: "Three")
    files = Fobrel::Core::Package::Archive.read(bytes)
    expect(
      files.keys.grep(%r{data/presets/}).map {
        File.basename(_1, ".json")
      }
    ).to match_array(three.map(&:document_id))
    expect(files.keys.grep(%r{data/assets/}).map { File.basename(_1, ".*") }).to match_array(
      three.flat_map { |preset|
        preset.current_version.value.needs
      }.uniq.map { _1.delete_prefix("sha256:") }
    )
    expect(call(:post, "/api/exports/#{Studio::M::Export.last.id}/repeat", {})).to eq(bytes)
    @first.presets.find(presets[0].id).update!(hidden_at: Time.current)
    backup = exported(@first, {kind: "backup", of: {library: true}, name: "Storm"})
    expect(last_response.headers["content-disposition"]).to match(/storm-#{Date.today}\.fobrel\.zip/)
    expect(Fobrel::Core::Package::Reader.read(backup).presets.size).to eq(8)
    category = @first.categories.create!(name: "Lines")
    presets[2].update!(category:)
    set = @first.brush_sets.create!(name: "Two").tap { _1.put_in_order([presets[4].id, presets[3].id]) }
    standing = @first.brush_sets.create!(name: "Found", query: "category: lines")
    names = [{set: set.id}, {set: standing.id}, {category: category.id}, {library: true}].map { |of|
      Fobrel::Core::Package::Reader.read(
        call(
          :post,
          "/api/libraries/#{@first.id}/exports",
          {kind: "package", of:, name: "x"}
        )
      ).presets.map(&:name)
    }
    expect(names).to eq(
      [
        [presets[4].name, presets[3].name],
        [presets[2].name],
        [presets[2].name],
        presets[1..].map(&:name)
      ]
    )
    listed = call(:get, "/api/libraries/#{@first.id}/exports")["exports"]
    expect(
      [
        listed.size,
        listed.last.values_at(
          "name",
          "count",
          "goes_to",
          "by",
          "sha256"
        )
      ]
    ).to eq([7, ["Three", 3, "this browser", "Maren Oake", Digest::SHA256.hexdigest(bytes)]])
  end

  it "writes what an export template says, shows it before, and refuses a broken one in a sentence" do
    base = "/api/libraries/#{@first.id}"
    export_template = {
      name: "Sizes",
      scope: "set",
      file: "{{ set.name }}.csv",
      body: "{% for preset in presets %}{{ preset.name | csv }},{{ preset.version }}," \
        "{{ preset.tags | join: '+' }}\n{% endfor %}"
    }
    shown = call(:post, "#{base}/export-templates/preview", {export_template:, preset_ids: presets.first(2).map(&:id)})
    expect(shown["files"].first["text"]).to start_with("#{presets[0].name},1,flat+lineart\n")
    kept = call(:post, "#{base}/export-templates", export_template)
    expect(
      call(
        :post,
        "#{base}/exports",
        {
          kind: "export_template",
          of: {preset_ids: presets.first(2).map(&:id)},
          name: "Sizes",
          options: {export_template: kept["id"]}
        }
      )
    ).to eq(shown["files"].first["text"])
    expect(
      call(
        :put,
        "/api/export-templates/#{kept["id"]}",
        export_template.merge(body: "{% if %}")
      )["error"]
    ).to match(/cannot be read/)
    each = call(
      :put,
      "/api/export-templates/#{kept["id"]}",
      export_template.merge(scope: "each", file: "{{ preset.name }}.txt")
    )
    zip = call(
      :post,
      "#{base}/exports",
      {
        kind: "export_template",
        of: {preset_ids: presets.first(2).map(&:id)},
        name: "Sizes",
        options: {export_template: each["id"]}
      }
    )
    expect(Fobrel::Core::Package::Archive.read(zip).keys).to eq(["Bollard.txt", "Chart nib.txt"])
    call(:delete, "/api/export-templates/#{kept["id"]}")
    expect(@first.export_templates.count).to eq(0)
    2.times { call(:post, "#{base}/export-templates", export_template) }
    expect([status, JSON.parse(last_response.body)["error"]]).to match([409, /name is taken/])
  end
end
