# frozen_string_literal: true

require "support/api"

# What nobody needs any more goes, by rules that a lead reads and changes; what is needed stays.
RSpec.describe "storage", :api do
  let(:storage) { "/api/libraries/#{@second.id}/storage" }

  before { sign_in("maren") }

  def clean = Studio::M::Cleaning.create!.run.took

  def tip(name) = {"#{name}.png" => Fobrel::Demo::Drawing.tip("anchor", 40 + name.size)}

  # As if so many days had gone by.
  def older(records, days)
    records.update_all(
      created_at: days.days.ago,
      **(records.klass.column_names.include?("updated_at") ? {updated_at: days.days.ago} : {})
    )
  end

  it "is for leads" do
    sign_in("tove")
    path = "/api/libraries/#{@first.id}/storage"
    answers = [[:get, path], [:put, path, {days: {}}], [:post, "#{path}/cleaning", {}]].map { |words|
      call(*words) && status
    }
    expect(answers).to eq([403, 403, 403])
  end

  it "has rules that say what they are, and refuses what is not a number of days" do
    expect(
      call(:get, storage)["rules"].map {
        _1.values_at(
          "key",
          "days"
        )
      }
    ).to eq(
      [
        ["cut_off", 2],
        ["waiting", 60],
        ["listed", 30],
        ["tasks", 30],
        ["undo", 365],
        ["taken", 90],
        ["hidden", nil]
      ]
    )
    changed = call(:put, storage, {days: {"waiting" => nil, "undo" => 30}})
    expect(
      changed["rules"].to_h {
        _1.values_at("key", "days")
      }
    ).to include("waiting" => nil, "undo" => 30, "tasks" => 30)
    wrong = {{"cut_off" => nil} => 422, {"waiting" => 0} => 422, {"waiting" => 1.5} => 400, {"waiting" => "9"} => 400}
    wrong.merge({"nothing" => 3} => 422).each do |days, answer|
      expect([call(:put, storage, {days:})["error"], status]).to match([/Nothing was changed/, answer])
    end
    expect(Fobrel::Reports::Storage.new(@first).days["undo"]).to eq(365)
  end

  it "takes away what the rules say, and nothing that is newer or asked to be kept for ever" do
    open = call(:post, "/api/libraries/#{@second.id}/imports", {name: "cut off"})
    call(:put, "/api/imports/#{open["id"]}/files?name=a.png", "x" * 5000)
    old, kept = deliver(@second, tip("old")), deliver(@second, tip("kept one"))
    taken = import_brushes(@second, tip("imported").values.first, file: "imported.png")
    older(Studio::M::Import.where.not(id: kept["id"]), 61)
    older(Studio::M::Task.all, 61)
    call(:put, storage, {days: {"tasks" => nil}})
    took = clean
    expect(took).to include("cut_off" => 1, "waiting" => 1)
    expect(took["listed"]).to be >= 1
    expect(took).not_to include("tasks")
    states = @second.imports.order(:id).pluck(:id, :state).to_h
    expect(states).to eq({old["id"] => "left", kept["id"] => "planned", taken["id"] => "applied"})
    expect(
      Studio::M::ImportFile.where(import_id: old["id"]).count + Studio::M::ImportPart.where(
        import_id: old["id"]
      ).count + Studio::M::ImportItem.where(import_id: [old["id"], taken["id"]]).count
    ).to eq(0)
    expect(call(:get, "/api/imports/#{taken["id"]}")["report"]).not_to be_empty
    expect(apply(call(:get, "/api/imports/#{kept["id"]}")) && status).to eq(202)
    expect(clean).to be_empty
  end

  it "deletes hidden brushes that nothing uses, when the rule says so, and says so before" do
    import_brushes(@second, package(@first, @first.presets.in_order.first(4)))
    first, used, drafted, newer = @second.presets.in_order.first(4)
    hidden = "/api/libraries/#{@second.id}/hidden"
    rows = -> { call(:get, hidden)["presets"].to_h { _1.values_at("id", "goes_at") } }
    @second.brush_sets.create!(name: "Kit").put_in_order([used.id])
    document = drafted.current_version.document.merge("paint" => {"flow" => 0.3})
    call(:put, "/api/presets/#{drafted.id}/draft", {document:})
    call(:post, "/api/libraries/#{@second.id}/hidings", {preset_ids: [first, used, drafted, newer].map(&:id)})
    @second.presets.where.not(id: newer.id).update_all(hidden_at: 40.days.ago)
    expect([clean["hidden"], rows.call.values.uniq]).to eq([nil, [nil]])
    call(:put, "/api/libraries/#{@second.id}/storage", {days: {"hidden" => 30}})
    goes = rows.call
    expect(goes.values_at(used.id, drafted.id)).to eq([nil, nil])
    expect([Time.parse(goes[first.id]) < Time.now, Time.parse(goes[newer.id]) > 29.days.from_now]).to eq([true, true])
    expect(clean["hidden"]).to eq(1)
    expect(rows.call.keys).to contain_exactly(used.id, drafted.id, newer.id)
    entry = @second.history_entries.order(:place).last
    expect([entry.via, entry.summary]).to match(["job", /1 brush deleted 30 days after being hidden.*#{first.name}/])
    expect(call(:post, "/api/libraries/#{@second.id}/uses", {preset_ids: [used.id]})["uses"][0]["links"]).to eq(
      [{"text" => "set Kit", "view" => "sets", "target" => @second.brush_sets.last.id}]
    )
  end

  it "takes pictures and strips of what is not here any more, and those of drafts, covers and undo not" do
    plan = import_brushes(@second, tip("gone").values.first, file: "gone.png")
    gone = @second.presets.last
    sum = gone.current_version.value.needs.first.delete_prefix("sha256:")
    call(:get, "/api/strips/#{gone.fingerprint}/list.png")
    held = call(:post, "/api/libraries/#{@first.id}/bundles", {name: "Kit", preset_ids: [@first.presets.first.id]})
    call(:put, "/api/bundles/#{held["id"]}/picture?file=c.png", tip("cover of it").values.first)
    cover = Studio::M::Bundle.find(held["id"]).picture
    call(:delete, "/api/bundles/#{held["id"]}")
    call(:post, "/api/history/#{plan["entry"]["id"]}/undo", {})
    older(Studio::M::Asset.all, 31)
    Studio::M::ImportItem.delete_all
    before = Studio::M::Asset.count
    expect(clean).to include("pictures" => 1, "strips" => 2)
    expect(
      [
        Studio::M::Asset.exists?(sum),
        Studio::M::Asset.exists?(cover),
        Studio::M::Asset.count
      ]
    ).to eq([false, true, before - 1])
    @first.presets.each { |preset|
      expect(call(:get, "/api/strips/#{preset.fingerprint}/list.png")).to start_with("\x89PNG".b)
    }
  end

  it "leaves a picture that is being brought again" do
    bytes = tip("back").values.first
    sum = Studio::M::Asset.keep(bytes, "png")
    older(Studio::M::Asset.where(sha256: sum), 31)
    Studio::M::Asset.keep(bytes, "png")
    clean
    expect(Studio::M::Asset.exists?(sum)).to be(true)
  end

  it "keeps what was done written down when its undo goes, and says so" do
    tag = call(:post, "/api/libraries/#{@first.id}/taggings", {tag: "dusk", preset_ids: [@first.presets.first.id]})
    entry = Studio::M::HistoryEntry.order(:id).last
    older(Studio::M::HistoryEntry.where(id: entry.id), 400)
    expect(clean).to include("undo" => 1)
    shown = call(:get, "/api/libraries/#{@first.id}/history")["entries"].find { _1["id"] == entry.id }
    expect([tag.nil?, shown["summary"], shown["undoable"]]).to eq([false, entry.summary, false])
    expect(
      call(
        :post,
        "/api/history/#{entry.id}/undo",
        {}
      )["error"]
    ).to match(/was kept for as long as this library's rules say/)
  end

  it "takes old files of the watched folder, and those only" do
    FileUtils.rm_rf(Fobrel::Jobs::WatchedFolder.root)
    folder = FileUtils.mkdir_p(
      File.join(
        Fobrel::Jobs::WatchedFolder.of(@second),
        "taken",
        "20260101-000000 scans"
      )
    ).first
    File.write(File.join(folder, "a.png"), "x")
    File.write(waits = File.join(Fobrel::Jobs::WatchedFolder.of(@second), "b.png"), "x")
    expect(clean).not_to include("taken")
    allow_any_instance_of(File::Stat).to receive(:ctime).and_return(91.days.ago)
    expect(clean).to include("taken" => 1)
    expect([Dir.children(folder), File.exist?(waits)]).to eq([[], true])
  end

  it "tells what takes room, what waits and who is busy, and begins once only" do
    import_brushes(@second, tip("room").values.first, file: "room.png")
    Studio::M::Pulse.instance_variable_set(:@next, 0)
    told = call(:get, storage)
    expect(
      told["room"].to_h {
        _1.values_at("title", "count")
      }
    ).to include("Versions of brushes" => 1, "Tips, grains and other pictures" => 1)
    expect(told["processes"].map { _1["kind"] }).to include("web")
    Que::Job.run_synchronously = false
    expect(
      call(
        :post,
        "#{storage}/cleaning",
        {}
      )["work"]
    ).to include(a_hash_including("kind" => "CleanUp", "count" => 1))
    expect([call(:post, "#{storage}/cleaning", {})["error"], status]).to match([/being cleaned already/, 422])
    nights = [
      Time.new(2026, 11, 20, 2, 59),
      Time.new(2026, 11, 20, 3, 0),
      Time.new(2026, 11, 20, 23, 0),
      Time.new(2026, 11, 21, 4, 0)
    ]
    nights.each { Fobrel::Jobs::CleanUp.due(_1) }
    expect(Studio::M::Cleaning.where.not(night: nil).pluck(:night).map(&:day)).to eq([20, 21])
  ensure
    Que::Job.run_synchronously = true
  end
end
