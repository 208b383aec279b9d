# frozen_string_literal: true

require "support/browser"

# What comes in and goes out, with the mouse and the keyboard.
RSpec.describe "Import and what goes out", :browser do
  def brush(name, **settings)
    Fobrel::Core::Preset::Preset.build(
      name,
      {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 22}}}.merge(settings.transform_keys(&:to_s))
    )
  end

  def parcel(name, presets, **words)
    path = File.join(files, name)
    items = presets.map { Fobrel::Core::Package::Bundle::Item.new(preset: _1, version: 1) }
    File.binwrite(
      path,
      Fobrel::Core::Package::Writer.zip(Fobrel::Core::Package::Bundle.build(items:, assets: {}, **words))
    )
    path
  end

  def strokes = @first.presets.shown.reload.map(&:fingerprint).sort

  it "shows what would happen, takes decisions for one and for all, puts things where they belong, and takes it back" do
    quay = @first.presets.find_by!(name: "Quay line")
    nib = @first.presets.find_by!(name: "Chart nib")
    set = @first.brush_sets.create!(name: "Guests").tap { _1.put_in_order([nib.id]) }
    before = strokes
    sign_in("maren")
    drop_file(
      parcel(
        "guest.fobrel.zip",
        [
          brush("Quay line", stroke: {"spacing" => 0.9}),
          brush("Chart nib", stroke: {"spacing" => 1.4}),
          brush("Guest fog"),
          brush(
            "Guest rope",
            paint: {"flow" => 0.2}
          )
        ],
        name: "Guest kit",
        author: "Ilse Brandow"
      )
    )
    expect(page).to have_css("h1", text: "Guest kit")
    expect(page).to have_content("4 to import, 0 already here")
    within("[aria-label='The same name, another stroke']") do
      expect(page).to have_css(".item .strip img", count: 4) # as it came, and as it is here
      select "leave out", from: "All: The same name, another stroke"
      expect(page).to have_css(".item.left", count: 2)
      select "replace it; the replaced brush is hidden", from: "What to do with Quay line"
      expect(page).to have_css(".item.left", count: 1)
    end
    expect(page).to have_content("3 to import")
    find_field("Set").send_keys("Guests", :tab)
    expect(page).to have_content("add")
    click_button "Import into Storm over Skerrow"
    expect(page).to have_content("Imported. guest.fobrel.zip: 2 new, 1 in the place of another, 1 left out")
    expect([quay.reload.hidden_at.nil?, set.preset_ids_in_order.size]).to eq([false, 4])
    expect(page).to have_css("[aria-label='import'] .report", count: 2)
    go "Hidden"
    expect(page).to have_content("Quay line")
    go "Import"
    find(".choice", text: "guest.fobrel.zip").click
    click_button "Undo import"
    expect(page).to have_content("Undone.")
    expect([strokes, set.preset_ids_in_order]).to eq([before, [nib.id]])
  end

  it "ends the same when the same package comes twice, half of it first, or the other way round" do
    brushes = Array.new(4) { |i| brush("Tide #{i}", stroke: {"spacing" => 0.2 + i / 10.0}) }
    parcels = [
      parcel("half.fobrel.zip", brushes.first(2)),
      parcel("whole.fobrel.zip", brushes),
      parcel("back.fobrel.zip", brushes.reverse)
    ]
    sign_in("maren")
    before = @first.presets.count
    [[parcels[0], 2], [parcels[1], 2], [parcels[1], 0], [parcels[2], 0]].each do |path, fresh|
      drop_file(path)
      expect(page).to have_css(".choice.on", text: File.basename(path))
      if fresh.zero?
        expect(page).to have_content("nothing to import")
        expect(page).to have_button("Import into Storm over Skerrow", disabled: true)
        next click_button("Discard")
      end
      expect(page).to have_content("#{fresh} to import")
      click_button "Import into Storm over Skerrow"
      expect(page).to have_content("Imported.")
      expect(page).to have_css(".choice.on", text: "imported")
    end
    expect(@first.presets.count).to eq(before + 4)
    expect(strokes.uniq.size).to eq(strokes.size)
  end

  it "shows by itself what was laid into the watched folder" do
    sign_in("maren")
    go "Import"
    expect(page).to have_content("Nothing is waiting.")
    folder = FileUtils.mkdir_p(Fobrel::Jobs::WatchedFolder.of(@first)).first
    File.binwrite(File.join(folder, "anchor.png"), Fobrel::Demo::Drawing.tip("anchor", 40))
    Fobrel::Jobs::WatchedFolder.look(Fobrel::Jobs::WatchedFolder.look({}))
    expect(page).to have_content("“anchor.png” is ready to review. Nothing has been imported yet.")
    expect(page).to have_css(".choice.on", text: "anchor.png")
    expect(page).to have_content("1 to import")
  end

  it "takes several files at once, a reel or a brush each, and says what cannot be read" do
    paths = %w[anchor gull].map { |name|
      File.join(files, "#{name}.png").tap { |path|
        File.binwrite(path, Fobrel::Demo::Drawing.tip(name, 4))
      }
    }
    File.write(bad = File.join(files, "bad.json"), "{")
    sign_in("maren")
    go "Import"
    attach_file "Choose files", paths, make_visible: true
    expect(page).to have_content("2 to import")
    find(".el-radio", text: "One brush, each picture a frame of its reel").click
    expect(page).to have_content("1 to import")
    click_button "Discard"
    expect(page).to have_content("discarded")
    attach_file "Choose files", [paths[0], bad], make_visible: true
    expect(page).to have_content("bad.json cannot be used: It is not JSON")
    click_button "Import into Storm over Skerrow"
    expect(page).to have_content("Imported. 2 files: 1 new, 1 left out")
    expect(page).to have_css("[aria-label='leave out'] .report", text: "bad.json")
  end

  it "keeps an export template, shows what it writes as it is typed, and lists what went out to do it again" do
    announce(/answer: 422 POST .*preview/)
    sign_in("maren")
    go "Export templates"
    click_button "Markdown card"
    expect(page).to have_css("pre", text: "| Size |")
    fill_in "Name of the export template", with: "Size list"
    find(".el-radio", text: "One file for all brushes").click
    fill_in "File name", with: "{{ set.name }}.txt"
    fill_in "Text of the export template",
      with: "{% for preset in presets %}{{ preset.name }}={{ preset.tip.size.base | radius }}\n{% endfor"
    expect(page).to have_css("[role=alert]", text: "cannot be read")
    fill_in "Text of the export template",
      with: "{% for preset in presets %}{{ preset.name }}={{ preset.tip.size.base | radius }}\n{% endfor %}"
    expect(page).to have_css("pre", text: "Bollard=15")
    click_button "Save template"
    expect(page).to have_content("“Size list” saved")
    click_button "Export files…"
    within("[role=dialog]") { click_button "Export" }
    expect(page).to have_content("8 brushes exported as size-list-")
    go "Export"
    expect(page).to have_css("tbody tr", count: 1, text: "8 brushes as text files")
    click_button "Back up library"
    expect(page).to have_css("tbody tr", count: 2)
    expect(page).to have_css("tbody tr:first-child", text: "8 brushes as a backup")
    click_button "Export Size list again"
    expect(page).to have_css("tbody tr", count: 3)
    path = Dir.glob(File.join(files, "downloads/storm-over-skerrow-backup-*.fobrel.zip")).first
    expect(
      Fobrel::Core::Package::Reader.read(File.binread(path)).then {
        [_1.presets.size, _1.export_templates.map(&:name)]
      }
    ).to eq([8, ["Size list"]])
  end

  it "makes a token for a program and takes it back" do
    sign_in("tove")
    find("header .who").click
    find("li", text: "Access tokens").click
    fill_in "What the token is for", with: "nightly"
    click_button "Create token"
    expect(find("[role=status]", text: "Copy it now").text).to match(/fobrel_\S{40}/)
    click_button "Revoke nightly"
    expect(page).to have_content("Token revoked")
    expect(Studio::M::AccessToken.count).to eq(0)
  end
end
