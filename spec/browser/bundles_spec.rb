# frozen_string_literal: true

require "support/browser"

RSpec.describe "bundles", :browser do
  it "makes one from the tray, mends what the preflight finds, releases, changes, compares and withdraws" do
    sign_in("maren")
    click_button "Select Bollard"
    click_button "Select Chart nib"
    within("footer") { click_button "Bundle" }
    fill_in "Name of the bundle", with: "Quay kit"
    within("[role=dialog]") { click_button "Create" }
    expect(page).to have_css("h1", text: "Quay kit")
    expect(page).to have_content("The bundle has no licence. Choose one.")
    expect(page).to have_button("Release…", disabled: true)
    find_field("Licence").click
    page.driver.browser.keyboard.type("CC-BY-4")
    find(".el-autocomplete-suggestion li", text: "CC-BY-4.0").click
    fill_in "Description", with: "For the quay."
    click_button "Save"
    expect(page).to have_content("ready: the first release is 1.0.0")
    click_button "Release…"
    expect(page).to have_field("Number of the release", with: "1.0.0")
    click_button "Release 1.0.0"
    expect(page).to have_content("1.0.0 released with 2 brushes")
    click_button "Remove Chart nib"
    expect(page).to have_content("the next release is 2.0.0, a major change")
    click_button "Release…"
    expect(page).to have_field("Notes of the release", with: "Gone: Chart nib.")
    click_button "Release 2.0.0"
    expect(page).to have_css(".release", count: 2)
    all(".release .el-checkbox").each(&:click)
    expect(page).to have_css(".differ", text: /Chart nib.*removed/m)
    click_button "Withdraw release 2.0.0"
    fill_in "Why it is withdrawn", with: "The nib was missed"
    within("[role=dialog]") { click_button "Withdraw" }
    expect(page).to have_css(".release", text: "The nib was missed")
    click_button "Download release 1.0.0"
    expect(page).to have_content("quay-kit-1.0.0.fobrel.zip was downloaded")
    file = File.join(files, "downloads/quay-kit-1.0.0.fobrel.zip")
    50.times { File.exist?(file) ? break : sleep(0.1) }
    expect(Fobrel::Core::Package::Reader.read(File.binread(file)).presets.map(&:name)).to eq(["Bollard", "Chart nib"])
  end
end
