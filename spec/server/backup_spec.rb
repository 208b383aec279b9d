# frozen_string_literal: true

require "support/api"
require "bagit"

# A backup holds a library whole: what is brought in from it and backed up again is the same file.
RSpec.describe "a backup of a whole library", :api do
  let(:presets) { @first.presets.in_order.to_a }
  let(:maren) { Studio::M::Person.find_by!(login: "maren") }

  before do
    sign_in("maren")
    @second.update!(name: @first.name) # the library’s own name is all that may differ
    fill(@first)
  end

  # Something of everything that a library can hold.
  def fill(library)
    library.update!(canvas: {"width" => 4000, "height" => 3000})
    lines = library.categories.create!(name: "Lines")
    dry = library.categories.create!(name: "Dry", parent: lines, position: 1)
    library.categories.create!(name: "Unused", position: 2)
    status = library.statuses.create!(name: "To be checked", colour: "moss", shape: "ring")
    presets[0].update!(category: dry, status:)
    presets[1].update!(category: lines, hidden_at: Time.current, hidden_by: maren)
    tag = library.tags.order(:name).first
    tag.synonyms.create!(library:, name: "level")
    library.tags.create!(name: "hangs nowhere", colour: "madder", shape: "bar")
    tune(presets[2], 0.4, "Drier")
    tune(presets[2], 0.6, "Drier still")
    Fobrel::Actions::DescribeVersion.call(preset: presets[2].reload, person: maren, number: 2, name: "The good one")
    tune(presets[3], 0.5, "")
    Fobrel::Actions::SetBaseline.call(preset: presets[3].reload, person: maren, number: 2)
    presets[4].update!(locked_by: maren)
    library.brush_sets.create!(name: "Two").put_in_order([presets[3].id, presets[0].id], {presets[0].id => "Lines"})
    library.brush_sets.create!(name: "Empty")
    library.brush_sets.create!(name: "Found", query: "category: lines")
    bundle(library)
    # Two that paint alike, and a hidden one under the name of another.
    Fobrel::Actions::DuplicatePresets.call(library:, person: maren, ids: [presets[6].id])
    old = Fobrel::Core::Preset::Preset[presets[7].current_version.document.merge(
      "id" => SecureRandom.uuid,
      "stroke" => {"spacing" => 0.9}
    )]
    Fobrel::Actions::CreatePreset.call(library:, value: old, person: maren).update!(
      hidden_at: Time.current,
      hidden_by: maren
    )
    library.desks.create!(name: "Desk", folder: "desk-spec").put_in_order([presets[5].id, presets[2].id])
    library.export_templates.create!(Fobrel::Core::Package::ExportTemplate.examples.first.to_h)
    disc = Vips::Image.black(30, 30).invert.draw_circle([0], 15, 15, 9, fill: true).copy(interpretation: :b_w)
    star = Fobrel::Core::Tip::Figure[[{"shape" => "star"}]]
    [
      ["Pebble", disc.pngsave_buffer, "png", nil],
      ["Star", star.svg, "svg", {"figure" => star.shapes}]
    ].each do |name, bytes, ext, made|
      sha256 = Studio::M::Asset.keep(bytes, ext)
      library.parts.create!(name:, sha256:, ext:, made:, kind: (ext == "svg") ? "drawing" : "tip", tags: ["wet"])
    end
    needed = presets.flat_map { _1.current_version.value.frames }.first
    library.parts.create!(name: "Used", kind: "tip", sha256: Fobrel::Core::Sum.in(needed)) if needed
  end

  def bundle(library)
    made = library.bundles.create!(
      name: "Harbour",
      description: "Two\nlines",
      author: "Maren Oake",
      licence: "CC-BY-4.0",
      cover: presets[0]
    )
    made.put_in_order([presets[2].id, presets[0].id], {presets[2].id => "Wet"})
    release = Fobrel::Actions::ReleaseBundle.call(bundle: made, person: maren, notes: "First")
    Fobrel::Actions::WithdrawRelease.call(release:, person: maren, reason: "Too wet")
    tune(presets[0], 0.3, "")
    Fobrel::Actions::ReleaseBundle.call(bundle: made.reload, person: maren, notes: "")
  end

  def tune(preset, spacing, note)
    preset.reload
    Fobrel::Actions::AddVersion.call(
      preset:,
      person: maren,
      value: preset.current_version.value.with("stroke", {"spacing" => spacing}),
      note:
    )
  end

  def back_up(library)
    exported(library, {kind: "backup", of: {library: true}, name: "Storm"})
  end

  def counts(library)
    %i[presets categories statuses tags brush_sets bundles desks export_templates].to_h {
      [_1, library.public_send(_1).count]
    }.merge(canvas: library.reload.canvas)
  end

  it "comes back the same to the byte, once, and its undo leaves nothing behind" do
    bytes = back_up(@first)
    before = counts(@second)
    plan = deliver(@second, {"storm.fobrel.zip" => bytes})
    expect(plan["backup"]).to eq(
      {
        "categories" => 3,
        "statuses" => 1,
        "versions" => 4,
        "bundles" => 1,
        "releases" => 2,
        "plans" => 1
      }
    )
    apply(plan)
    done = call(:get, "/api/imports/#{plan["id"]}")
    expect(done["report"]["notes"]).to eq([])
    expect(back_up(@second)).to eq(bytes)

    # What the file cannot show: what was packed is what can be fetched; nobody's desk is touched.
    release = @second.bundles.first.releases.first
    expect(Digest::SHA256.hexdigest(call(:get, "/api/releases/#{release.id}/package"))).to eq(release.sha256)
    Studio::M::Export.where(release:).delete_all
    expect(Studio::M::DeskState.of(@second.desks.first).word).to eq("never sent")
    expect(@second.presets.find_by!(document_id: presets[3].document_id).altered).to be(false)
    expect(import_brushes(@second, bytes)["entry"]).to be_nil

    expect(call(:post, "/api/history/#{done["entry"]["id"]}/undo", {})["kept"]).to eq([])
    expect(counts(@second)).to eq(before)
  end

  it "is a package to tools of other makers" do
    files = Fobrel::Core::Package::Archive.read(back_up(@first))
    histories = files.select { |path, _| path.start_with?("data/versions/") }.values.map { JSON.parse(_1) }
    expect(
      outside({library: JSON.parse(files["data/library.json"]), histories:}).values_at(
        "library",
        "histories"
      )
    ).to eq([[], [[]] * 10])
    packed = files.select { |path, _| path.end_with?(".fobrel.zip") }.values
    expect(packed.map { Fobrel::Core::Package::Reader.read(_1).version }.sort).to eq(%w[1.0.0 1.1.0])
    Dir.mktmpdir do |folder|
      files.each { |path, bytes|
        FileUtils.mkdir_p(File.dirname("#{folder}/#{path}")) && File.binwrite("#{folder}/#{path}", bytes)
      }
      expect(BagIt::Bag.new(folder)).to be_valid
    end
  end

  it "overwrites nothing that is here, and its undo keeps what was changed since" do
    own = @second.bundles.create!(name: "harbour", description: "Ours")
    @second.brush_sets.create!(name: "found", query: "tag: sea")
    @second.brush_sets.create!(name: "two", query: "tag: sky")
    done = import_brushes(@second, back_up(@first))
    expect(
      [
        own.reload.description,
        own.releases.count,
        @second.brush_sets.find_by!(name: "found").query
      ]
    ).to eq(["Ours", 0, "tag: sea"])
    expect(done["report"]["notes"]).to match(
      [
        /“Two” fills itself from a search here/,
        /“harbour” is here already and stays as it is; the backup has releases/
      ]
    )
    tuned = @second.presets.find_by!(document_id: presets[2].document_id)
    tune(tuned, 0.9, "Since")
    @second.desks.first.put_in_order([tuned.id])
    kept = call(:post, "/api/history/#{done["entry"]["id"]}/undo", {})["kept"]
    expect(kept).to match_array(
      [
        /start-up plan of “Desk” has been changed/,
        /“#{tuned.name}” has been changed or used since/
      ]
    )
    expect([@second.presets.pluck(:name), tuned.versions.map(&:number)]).to eq([[tuned.name], [1, 2, 3, 4]])
  end

  it "leaves releases, start-up plans and locks to a lead, and says so" do
    bytes = back_up(@first)
    @second.memberships.find_by!(person: maren).update!(role: "artist")
    done = import_brushes(@second, bytes)
    expect(done["report"]["notes"]).to match(
      [
        /releases of “Harbour” were left out: only a lead/,
        /start-up plans were left out/
      ]
    )
    expect(
      [
        @second.bundles.first.releases.count,
        @second.desks.count,
        @second.presets.where.not(locked_by: nil).count,
        @second.categories.count
      ]
    ).to eq([0, 0, 0, 3])
  end

  it "leaves out a search that nobody can read, and says so" do
    payload = Fobrel::Core::Package::Archive.read(back_up(@first)).select { |path, _|
      path.start_with?("data/")
    }.transform_keys { _1.delete_prefix("data/") }
    payload["bundle.json"] = payload["bundle.json"].sub('"category: lines"', '"colour: red"')
    done = import_brushes(@second, Fobrel::Core::Package::Writer.pack(Fobrel::Core::Package::Writer.bag(payload)))
    expect(
      [
        done["report"]["notes"],
        @second.brush_sets.pluck(:name)
      ]
    ).to match(
      [
        [/The set “Found” was left out: There is no term “colour:”/],
        match_array(%w[Two Empty])
      ]
    )
  end

  it "never takes a release for a picture" do
    bytes = back_up(@first)
    sum = @first.bundles.first.releases.first.sha256
    thief = Fobrel::Core::Preset::Preset.build(
      "Thief",
      {"tip" => {"form" => {"kind" => "picture", "frames" => ["sha256:#{sum}"]}, "size" => {"base" => 20}}}
    )
    plan = deliver(@second, {"storm.fobrel.zip" => bytes, "thief.json" => thief.canonical})
    expect(plan["items"].find { _1["name"] == "Thief" }.values_at("state", "decision")).to eq(%w[lacking leave])
  end
end
