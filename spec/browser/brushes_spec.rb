# frozen_string_literal: true

require "support/browser"
require_relative "../../bench/many"

RSpec.describe "Brushes", :browser do
  def names = all(".list .row .words b").map(&:text)

  def first_strip = evaluate_script("document.querySelector('.list .row img').getAttribute('src')")

  it "scrolls through hundreds with the right picture on every row, and keeps the place" do
    Fobrel::Many.fill(@first, Studio::M::Person.first, count: 600)
    sign_in("maren")
    expect(page).to have_content("608 brushes")
    expect(all(".list .row").size).to be < 40
    execute_script("document.querySelector('.list').scrollTop = 20000")
    expect(page).to have_css(".list .row[aria-rowindex='270']")
    expect(page).to have_no_css(".list .row:not(:has(img))") # rows stand there before their brushes are read
    shown = evaluate_script(
      "[...document.querySelectorAll('.list .row')].map(r => [Number(r.dataset.index), " \
        "r.querySelector('b')?.textContent, r.querySelector('img')?.getAttribute('src')])"
    )
    wanted = @first.presets.in_order.pluck(:name, :fingerprint)
    expect(shown.map { |index, name, src| [name, src[/\h{64}/]] == wanted[index] }.uniq).to eq([true])
    find("[aria-rowindex='270']").double_click
    expect(page).to have_css(".bench h1", text: wanted[269].first)
    go "Brushes"
    expect(page).to have_css(".list .row[aria-rowindex='270']")
    # Another question never shows a row of the one before.
    fill_in "Find a brush", with: "category: fog; size: under 30"
    fog = Fobrel::Finding::Search.new(
      library: @first,
      person: Studio::M::Person.first,
      query: Fobrel::Core::Curation::Query.parse("category: fog; size: under 30")
    ).presets
    expect(page).to have_content("#{fog.count} brushes")
    expect(names - fog.pluck(:name)).to eq([])
  end

  it "picks ranges and everything, with keys and mouse" do
    sign_in("maren")
    expect(page).to have_css(".row", count: 8)
    find("[aria-rowindex='2']").click
    find("[aria-rowindex='5']").click(:shift)
    expect(page).to have_content("Tray (4)")
    find("[aria-rowindex='7']").click(:control)
    expect(page).to have_content("Tray (5)")
    click_button "Clear"
    find("[aria-rowindex='1']").click
    find("body").send_keys(%i[shift down], %i[shift down])
    expect(page).to have_content("Tray (3)")
    find("body").send_keys([:control, "a"])
    expect(page).to have_content("Tray (8)")
  end

  it "suggests while typing, narrows by facets, and keeps a search as a set that fills itself" do
    announce(/answer: 422 GET .*brushes/)
    sign_in("maren")
    find("input[type=search]").click
    page.driver.browser.keyboard.type("tag: rig")
    find("[role=option]", text: "tag: rigging").click
    expect(page).to have_css(".chip", text: "tag: rigging")
    expect(page).to have_css(".row", count: 2)
    find(".facet", text: "picture tip").click if page.has_css?(".facet", text: "picture tip", wait: 1)
    click_button "Save search"
    fill_in "Name of the automatic set", with: "Rigging now"
    click_button "Save", exact: true
    expect(page).to have_css(".facet", text: "Rigging now")
    find(".chip", text: "tag: rigging").click
    find(".facet", text: "Rigging now").click
    expect(page).to have_css(".chip", text: "set: Rigging now")
    fill_in "Find a brush", with: "colour: red"
    expect(page).to have_css("[role=alert]", text: "There is no term “colour:”")
  end

  it "shows a set in its own order, and any other on request" do
    @first.brush_sets.create!(name: "Act 1, the quay").put_in_order(@first.presets.in_order.ids.last(4).reverse)
    sign_in("maren")
    expect(page).to have_css(".order", text: "by name")
    find(".facet", text: "Act 1, the quay").click
    expect(page).to have_css(".row", count: 4)
    expect(page).to have_css(".order", text: "in the order of “Act 1, the quay”")
    by_hand = names
    expect(by_hand).to eq(@first.presets.in_order.pluck(:name).last(4).reverse)
    find(".order").click
    find(".el-select-dropdown__item", text: "by name").click
    expect(page).to have_css(".row[aria-rowindex='1'] b", text: by_hand.last)
  end

  it "shows strips, rows and a table, on any ground" do
    sign_in("maren")
    click_button "table"
    expect(page).to have_css(".head", text: "Size")
    expect(find("[aria-rowindex='1']")).to have_content("px")
    click_button "rows"
    expect(page).to have_css(".list.rows .row", count: 8)
    click_button "black ground"
    expect(evaluate_script("getComputedStyle(document.querySelector('.list .strip')).backgroundColor")).to eq(
      "rgb(0, 0, 0)"
    )
  end

  it "renames many with a live table, compares, hides and restores" do
    sign_in("maren")
    click_button "Select these"
    within("footer") { click_button "Rename" }
    fill_in "Before the name", with: "Q "
    expect(page).to have_content("8 would change")
    fill_in "Find", with: "Bollard"
    fill_in "Replace with", with: "Chart nib"
    expect(page).to have_content("2 in the way of another")
    expect(page).to have_button("Rename 8", disabled: true)
    fill_in "Find", with: ""
    click_button "Rename 8"
    expect(page).to have_content("8 brushes renamed")
    expect(page).to have_css(".row b", text: /\AQ /, count: 8)
    click_button "Undo"
    expect(page).to have_css(".row b", text: "Bollard")
    click_button "Clear"
    click_button "Select Bollard"
    click_button "Select Chart nib"
    within("footer") { click_button "Compare" }
    expect(page).to have_css(".row .painted img", count: 6)
    expect(page).to have_css("table th", text: "Size")
    within("footer") { find("button", text: "More").click }
    find("li", text: "Hide…").click
    within("[role=dialog]") { click_button "Hide" }
    expect(page).to have_content("2 brushes hidden")
    expect(page).to have_css("footer", text: "Tray (0)") # what was hidden leaves the tray
    go "Hidden"
    find("[aria-label='Select Bollard']", visible: :all).find(:xpath, "..").click
    click_button "Restore (1)"
    expect(page).to have_content("1 brush restored")
    go "Brushes"
    expect(page).to have_css(".row", count: 7)
  end

  it "puts brushes into categories and sets with sections; shows duplicates and what the library holds" do
    sign_in("maren")
    go "Categories and tags"
    fill_in "Name of a new category", with: "Inks"
    within("section[aria-label=Categories]") { click_button "Add" }
    expect(page).to have_css(".item b", text: "Inks")
    go "Brushes"
    click_button "Select Bollard"
    click_button "Select Chart nib"
    within("footer") { find("button", text: "More").click }
    find("li", text: "Set category…").click
    find("[role=dialog] .el-select").click
    find(".el-select-dropdown__item", text: "Inks").click
    within("[role=dialog]") { click_button "Set" }
    expect(page).to have_css(".facet", text: /Inks\s*2/)
    within("footer") { click_button "Add to set" }
    fill_in "Existing or new set", with: "Kit"
    within("[role=dialog]") { click_button "Add" }
    expect(page).to have_content("The set “Kit” holds 2 brushes")
    go "Sets"
    click_button "Start a section at Chart nib"
    fill_in "Name of the section", with: "Nibs"
    click_button "From here on"
    expect(page).to have_css("h3", text: "Nibs")
    go "Overview"
    expect(page).to have_css(".gap", text: /6\s*In no set/)
    expect(page).to have_css("section[aria-label='By size'] .bars li", text: /\A20–40 px\s*\d+\z/)
    expect(page).to have_css(".bars", minimum: 4)
    go "Duplicates"
    expect(page).to have_content(/No duplicates|identical|alike/)
  end
end
