# frozen_string_literal: true

require "support/browser"

# Somebody works at each of two web processes, which share nothing but the database.
RSpec.describe "from a picture to everybody's desk", :apart, :browser do
  it "drops a mark, makes, names, tunes, tags, exports, imports elsewhere, hands out, restarts, changes and resets" do
    # A scanned mark becomes a tip with no grey box around it.
    sign_in("maren")
    drop_file(scan("bollard_head.png"))
    expect(page).to have_css(".maker h1", text: "Bollard head")
    expect(page).to have_css("[data-test=tip]")
    expect(page).to have_content("Paints solid")
    expect(page).to have_css("[data-test=stroke]")
    expect(page).to have_field("Name", with: "Bollard head")
    fill_in "Name", with: "Bollard cap"
    click_button "Save brush"

    # Tuned on the Bench: the strip follows, the change is a draft, and is saved.
    expect(page).to have_css(".bench h1", text: "Bollard cap")
    expect(page).to have_content("no change")
    live = find("[data-test=live] img")[:src]
    tune "Size in px", 28
    tune "Spacing in %", 90
    expect(page).to have_content("2 changes")
    expect(page).to have_css("[role=status]", text: "kept")
    expect(page).to have_content("Size 120 px → 28 px")
    expect(page).to have_no_css("[data-test=live] img[src='#{live}']")
    save_version 2, note: "smaller, apart"
    tune "Flow in %", 40
    click_button "Save as new brush…"
    expect(page).to have_field("Name of the new brush", with: "Bollard cap 2")
    click_button "Save new brush"
    expect(page).to have_css("h1", text: /\ABollard cap 2\z/)

    # Found on the Brushes, picked, tagged, put in a set.
    go "Brushes"
    fill_in "Find a brush", with: "bollard"
    expect(page).to have_css(".row", count: 3)
    click_button "Select Bollard cap"
    click_button "Select Bollard cap 2"
    within("footer") { click_button "Tag" }
    fill_in "Existing or new tag", with: "quay"
    within("[role=dialog]") { click_button "Tag" }
    expect(page).to have_content("Tagged 2 with “quay”")
    expect(row("Bollard cap 2")).to have_content("quay")
    within("footer") { click_button "Add to set" }
    fill_in "Existing or new set", with: "Pier kit"
    within("[role=dialog]") { click_button "Add" }
    expect(page).to have_css(".facet", text: "Pier kit")

    # Handed over as a package.
    within("footer") { click_button "Export" }
    fill_in "Name of the package", with: "Pier kit"
    within("[role=dialog]") { click_button "Export" }
    expect(page).to have_content("2 brushes exported as pier-kit.fobrel.zip")
    package = File.join(files, "downloads/pier-kit.fobrel.zip")
    50.times { File.exist?(package) ? break : sleep(0.1) }
    expect(Fobrel::Core::Package::Reader.read(File.binread(package)).presets.map(&:name)).to eq(
      [
        "Bollard cap",
        "Bollard cap 2"
      ]
    )
    sign_out

    # Somebody else takes it into an empty library, unchanged; a second time adds nothing.
    sign_in("tove")
    choose_library("Second unit")
    drop_file(package)
    expect(page).to have_css("h1", text: "Import")
    expect(page).to have_content("2 to import, 0 already here")
    click_button "Import into Second unit"
    expect(page).to have_content("Imported.")
    drop_file(package)
    expect(page).to have_content("nothing to import: everything is here already")
    expect(page).to have_button("Import into Second unit", disabled: true)
    prints = ->(library) {
      library.presets.where("name LIKE 'Bollard cap%'").includes(:current_version).map {
        _1.current_version.fingerprint
      }.sort
    }
    expect(prints[@second]).to eq(prints[@first])
    go "Brushes"
    expect(page).to have_css(".row", count: 2)
    expect(page).to have_css(".facet", text: "quay")
    expect(page).to have_no_css(".facet", text: "Pier kit") # two brushes were picked, no set was asked for

    # In a desk's startup folder after a restart.
    click_button "Select these"
    go "Desks"
    fill_in "Name of a new desk", with: "Quay desk"
    click_button "Add"
    click_button "Add to the startup"
    find(".el-dropdown-menu__item", text: "The tray (2)").click
    expect(page).to have_css("[aria-label=Startup] [data-thing]", count: 2)
    click_button "More for Bollard cap 2"
    find(".el-dropdown-menu__item", text: "Move up").click
    expect(page).to have_css("[aria-label=Startup] [data-thing]:first-child", text: "Bollard cap 2")
    expect(page).to have_content("2 brushes in the start-up plan")
    click_button "Send to desk…"
    click_button "Send"
    expect(page).to have_content("Sent to Quay desk")
    click_button "Restart desk"
    within("[aria-label='Report of the last start']") do
      expect(all("tr").map(&:text)).to match([/as planned\s+Bollard cap 2/, /as planned\s+Bollard cap\s/])
    end
    expect(Dir.glob("#{files}/desks/quay-desk-*/startup/*.json").map { File.basename(_1) }.sort)
      .to eq(["01 Bollard cap 2.json", "02 Bollard cap.json"])

    # Changed, saved, and back to what was received.
    go "Brushes"
    row("Bollard cap 2").double_click
    expect(page).to have_css("h1", text: "Bollard cap 2")
    tune "Size in px", 80
    expect(page).to have_content("1 change")
    save_version 2
    go "Desks"
    expect(page).to have_content("out of date")
    go "Brushes"
    click_button "Reset…"
    within("[role=dialog]") do
      expect(page).to have_css("label.row", count: 1)
      expect(page).to have_css("label.row .strip", count: 2)
      click_button "Reset 1 brush"
    end
    expect(page).to have_content("1 brush reset to the baseline")
    expect(prints[@second]).to eq(prints[@first])
    click_button "Undo"
    expect(page).to have_content("Undone.")
    expect(prints[@second]).not_to eq(prints[@first])
  end
end
