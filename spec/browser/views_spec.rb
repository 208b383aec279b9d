# frozen_string_literal: true

require "support/browser"

RSpec.describe "the views", :browser do
  it "says in words what is wrong with a file, and keeps nothing" do
    announce(/answer: 422 POST .*works/)
    sign_in("maren")
    before = [Studio::M::Preset.count, Studio::M::Asset.count]
    {
      "words.png" => "only words",
      "cut.png" => File.binread(scan("whole.png"))[0, 4000]
    }.each do |name, bytes|
      File.binwrite(File.join(files, name), bytes)
      drop_file(File.join(files, name))
      expect(page).to have_content(/#{name} .*Nothing was kept/)
      expect(page).to have_content("Your work is saved here automatically")
    end
    File.binwrite(File.join(files, "bad.fobrel.zip"), "PK words")
    drop_file(File.join(files, "bad.fobrel.zip"))
    expect(page).to have_css("[aria-label='Cannot be read'] .item", text: /bad\.fobrel\.zip is not a ZIP file/)
    expect([Studio::M::Preset.count, Studio::M::Asset.count]).to eq(before)
  end

  it "keeps a draft through leaving, signing out and coming back; discards it on purpose" do
    permit(/answer: 401 GET .*state/) # a look that falls into the signing out
    sign_in("maren")
    row("Bollard").double_click
    tune "Size in px", 55
    expect(page).to have_css("[role=status]", text: "kept")
    sign_out
    sign_in("maren")
    go "Brushes"
    expect(row("Bollard")).to have_content("unsaved change")
    row("Bollard").double_click
    expect(page).to have_field("Size in px", with: "55")
    from_menu "Reset ▾", "Discard draft"
    expect(page).to have_field("Size in px", with: "30")
    click_button "Undo"
    expect(page).to have_field("Size in px", with: "55")
  end

  it "opening a brush changes nothing" do
    sign_in("maren")
    Studio::M::Preset.pluck(:id).first(4).each do |id|
      visit "/bench/#{id}"
      expect(page).to have_css("[data-test=live] img")
      sleep 0.6
    end
    expect(Studio::M::Draft.count).to eq(0)
  end

  it "is walked and picked with the keyboard" do
    sign_in("maren")
    expect(page).to have_css(".row", count: 8)
    names = all(".row .words b").map(&:text)
    find("body").send_keys(:down, :down, " ")
    expect(find(".peek h1").text).to eq(names[2])
    expect(page).to have_content("Tray (1)")
    find("body").send_keys("/")
    page.driver.browser.keyboard.type("tide")
    expect(page).to have_css(".row", count: 1)
    find("body").click
    find("body").send_keys("?")
    expect(page).to have_css("[role=dialog]", text: "Move through the brushes")
  end

  it "lets a guest look, and shows nothing they may not do" do
    sign_in("ilse")
    expect(page).to have_css(".row", count: 8)
    expect(page).to have_no_link("Tip maker")
    expect(page).to have_no_link("Import")
    expect(page).to have_no_button("Reset…")
    row("Bollard").double_click
    expect(page).to have_css("h1", text: "Bollard")
    expect(page).to have_no_button("Discard draft")
    drop_file(scan("no.png"))
    expect(page).to have_css("[role=alert]", text: "You can view this library")
  end

  it "shows the usual where the address asks for a filter, an order or a tab that doesn't exist" do
    sign_in("maren")
    visit "/#{@first.id}/tip-maker/parts?only=constructor"
    expect(page).to have_css("[aria-pressed=true]", text: "all")
    visit "/#{@first.id}/desks?show=constructor"
    expect(page).to have_css("h1", text: "Desks")
    visit "/#{@first.id}/brushes?order=constructor"
    expect(page).to have_css(".row", count: 8)
  end

  it "changes the ground, and keeps the strips' own" do
    sign_in("maren")
    expect(page).to have_css(".strip")
    ground = -> {
      page.evaluate_script(
        "[getComputedStyle(document.body).backgroundColor, " \
          "getComputedStyle(document.querySelector('.strip')).backgroundColor]"
      )
    }
    day = ground.call
    click_button "Switch to Night"
    expect(page).to have_button("Switch to Day")
    night = ground.call
    expect([day[0] == night[0], night[1]]).to eq([false, "rgb(247, 247, 245)"])
  end
end
