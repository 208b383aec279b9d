# frozen_string_literal: true

require "support/browser"

# What takes room and how long it is kept: read, changed and done by hand.
RSpec.describe "Storage", :browser do
  def days(rule) = find_field("#{rule}, days", disabled: :all)

  it "shows what takes room, keeps a changed rule over a reload, and cleans at a press" do
    import = @first.imports.create!(name: "old", source: "dropped", state: "planned", created_at: 61.days.ago)
    sign_in("maren")
    go "Storage"
    expect(page).to have_css("tr", text: /Tips, grains and other pictures\s*\d+/)
    expect(page).to have_button("Save rules", disabled: true)
    days("Files that did not arrive whole").fill_in(with: "5")
    find("label", text: "No limit", match: :first).click # the first that may be kept for ever
    expect(days("Imports that were never finished")).to be_disabled
    click_button "Discard changes"
    expect(days("Imports that were never finished").value).to eq("60")
    days("Files that did not arrive whole").fill_in(with: "5")
    find("h1", text: "Storage").click
    click_button "Save rules"
    expect(page).to have_content("Applies from tonight.")
    page.refresh
    expect(page).to have_field("Files that did not arrive whole, days", with: "5")
    expect(@first.reload.storage).to eq({"cut_off" => 5})
    click_button "Clean now"
    expect(page).to have_css("tr", text: /Maren Oake.*Imports that were never finished: 1/)
    expect(import.reload.state).to eq("left")
  end

  it "is a lead's: an artist is told so, and finds no way there" do
    sign_in("tove")
    expect(page).to have_no_link("Storage")
    visit "/#{@first.id}/library/storage"
    expect(page).to have_content("You are an artist in Storm over Skerrow")
    expect(page).to have_content("“Library” is for leads")
  end

  it "says before what may come, and what an export template may take" do
    sign_in("maren")
    go "Import"
    find("summary", text: "Limits").click
    expect(page).to have_content(
      "At most 5,000 files and 1,024 MB per import. A picture: 64 MB, 12,000 px a side, 40 million pixels; 256 " \
        "in one file. Imports left unfinished are discarded after 60 days."
    )
    go "Export templates"
    click_button "Reference"
    expect(page).to have_content("It may take 5 seconds, and one more for every hundred brushes")
  end
end
