# frozen_string_literal: true

require "support/browser"
require "support/command"

# Start-up plans on desks, with the real agent and the painting program's stand-in.
RSpec.describe "desks", :browser do
  include CommandHelp

  let(:presets) { @first.presets.shown.order(:id).to_a }

  after { FileUtils.rm_rf(Dir.glob("#{files}/desks/*")) }

  def from_list(button, item)
    click_button button
    find(".el-dropdown-menu__item", text: item, visible: true).click
  end

  def press_key(name, key)
    find("button[aria-label^='Key of #{name}:']").click
    page.driver.browser.keyboard.type(key)
  end

  def send_to_desk
    click_button "Send to desk…"
    within("[role=dialog]") { click_button "Send" }
    expect(page).to have_content("Sent to")
  end

  def make(name, kind: "desk", from: nil)
    find("aside label", text: kind.capitalize).click
    fill_in "Name of a new #{kind}", with: name
    select "Based on #{from}", from: "Template" if from
    click_button "Add"
    expect(page).to have_css("main h1", text: name)
  end

  def seek(name)
    from_list "Add to the startup", "A brush by name"
    still(find_field("A brush for the startup")).click
    page.driver.browser.keyboard.type(name)
    find(".el-autocomplete-suggestion li", text: name).click
  end

  def add(name)
    seek(name)
    expect(page).to have_css("[aria-label=Startup] [data-thing]", text: name)
  end

  def folder(desk) = "#{files}/desks/#{Studio::M::Desk.find_by!(name: desk).folder}"

  it "go the whole way: template, two desks, a clash, sent, altered, repaired, proposed, and on to the other" do
    names = presets.map(&:name)
    sign_in("maren")
    go "Desks"
    make "Whole unit", kind: "template"
    names.first(3).each { |name| add(name) }
    press_key names[0], "1"
    expect(page).to have_css("button[aria-label^='Key of #{names[0]}: 1']")
    press_key names[1], "2"
    expect(page).to have_css("button[aria-label^='Key of #{names[1]}: 2']")
    make "Desk one", from: "Whole unit"
    expect(page).to have_css("[aria-label=Startup] [data-thing]", count: 3)
    make "Desk two", from: "Whole unit"
    expect(page).to have_css("[aria-label=Startup] [data-thing]", count: 3)
    # Two brushes of one desk want one key: said before it is sent, with the nearest that is free.
    add names[3]
    press_key names[3], "2"
    expect(page).to have_css("button[aria-label*='is wanted by']", count: 2)
    announce(/answer: 422 POST/)
    click_button "Send to desk…"
    within("[role=dialog]") { click_button "Send" }
    expect(page).to have_css("[role=alert]", text: /2 is wanted by .*Nothing was sent to Desk two/)
    from_list "More for #{names[3]}", "Use free key 3"
    expect(page).to have_no_css("button[aria-label*='is wanted by']")
    send_to_desk
    find(".choice", text: "Desk one").click
    expect(page).to have_css("main h1", text: "Desk one")
    send_to_desk
    click_button "Restart desk"
    expect(page).to have_css("tr", text: "as planned", count: 3)
    # By hand, behind everybody's back: one altered, one deleted, one brush of one's own, and a note.
    at = folder("Desk one")
    first, second = names.first(2).each_with_index.map { |name, n| "#{at}/startup/0#{n + 1} #{name}.json" }
    brush = JSON.parse(File.read(first))
    brush["tip"]["size"]["base"] = 77
    File.write(first, JSON.generate(brush))
    File.write("#{at}/startup/mine.json", JSON.generate(brush.merge("name" => "Mine", "id" => SecureRandom.uuid)))
    File.delete(second)
    File.write("#{at}/note.txt", "mine")
    page.refresh
    expect(page).to have_css("main header", text: "changed on the desk: 1 missing, 1 altered")
    click_button "On disk (4)"
    %w[Mine note.txt].push(*names.first(2)).each { |name| expect(page).to have_css("article b", text: name) }
    within("article", text: "altered") { expect(page).to have_content("77 px") }
    within("article", text: "missing") { click_button "Repair" }
    expect(page).to have_content("Repaired")
    expect(page).to have_no_css("article", text: "missing")
    within("article", text: "altered") { click_button "Propose to library…" }
    within(".el-message-box") { click_button "Propose" }
    expect(page).to have_content("proposed to")
    within("article", text: "Mine") { click_button "Keep as this desk’s own" }
    expect(page).to have_no_css("article", text: "Mine")
    go "Proposals"
    click_button "Accept as version 2", match: :first
    click_button "Accept as next version"
    expect(page).to have_content("accepted as version 2")
    go "Desks"
    expect(page).to have_css(".choice", text: /Desk two\s+out of date/)
    3.times do
      find(".choice", text: "Desk one").click
      expect(page).to have_css("main h1", text: "Desk one")
      send_to_desk
      page.refresh
    end
    expect(File.read("#{at}/note.txt")).to eq("mine")
    expect(JSON.parse(File.read("#{at}/startup/mine.json"))["name"]).to eq("Mine")
    find("button", text: "Send to all out of date").click
    expect(page).to have_content("Sent to Desk two")
    there = JSON.parse(File.read("#{folder("Desk two")}/startup/01 #{names[0]}.json"))
    expect(there["tip"]["size"]["base"]).to eq(77)
    expect(page).to have_content("2 of 2 desks are current")
  end

  it "go back several at once to the plan before, told for each beforehand; a name is asked for where it is typed" do
    sign_in("maren")
    go "Desks"
    make "Desk one"
    add presets[0].name
    send_to_desk
    from_list "More for #{presets[0].name}", "In place of a stock brush"
    still(find_field("Name of the stock brush"))
    expect(page.evaluate_script("document.activeElement.getAttribute('aria-label')")).to eq("Name of the stock brush")
    page.driver.browser.keyboard.type("Round", :enter)
    expect(page).to have_css("[aria-label=Startup] [data-thing]", text: "Round")
    add presets[1].name
    send_to_desk
    make "Desk two"
    add presets[2].name
    send_to_desk
    2.times do |times|
      click_button "Restore several…"
      within("[role=dialog]") do
        expect(page).to have_content("Desk two had no plan before this one.")
        expect(page).to have_content((times == 0) ? "plan 1, 1 brushes" : "plan 2, 2 brushes")
        expect(page).to have_field("Desk two", type: "checkbox", disabled: true, checked: false, visible: :all)
        click_button "Restore 1"
      end
      expect(page).to have_content("Desk one: restored")
      expect(page).to have_no_css("[role=dialog]")
      expect(Dir.glob("#{folder("Desk one")}/startup/*.json").size).to eq(times + 1)
    end
  end

  it "say beforehand which desks a template changes, and take own differences back" do
    names = presets.map(&:name)
    sign_in("maren")
    go "Desks"
    make "Whole unit", kind: "template"
    add names[0]
    make "Desk one", from: "Whole unit"
    add names[1]
    expect(page).to have_content("only here")
    click_button "Remove #{names[0]}"
    expect(page).to have_content("#{names[0]} is taken out here")
    find(".choice", text: "Whole unit").click
    expect(page).to have_css("main h1", text: "Whole unit")
    seek(names[2])
    within(".el-dialog") do
      expect(page).to have_content("Desk one")
      expect(page).to have_content("+ #{names[2]}")
      click_button "Leave it"
    end
    expect(page).to have_css("[aria-label=Startup] [data-thing]", count: 1)
    seek(names[2])
    within(".el-dialog") { click_button "Apply" }
    expect(page).to have_css("[aria-label=Startup] [data-thing]", count: 2)
    find(".choice", text: "Desk one").click
    expect(page).to have_css("[aria-label=Startup] [data-thing]", text: names[2])
    click_button "Restore"
    expect(page).to have_css("[aria-label=Startup] [data-thing]", count: 3)
  end

  it "are planned by two at once without losing a change, and looked at by those who may not" do
    names = presets.map(&:name)
    desk = @first.desks.create!(name: "Desk", folder: "desk-two").tap { |one|
      one.put_in_order(presets.first(3).map(&:id))
    }
    sign_in("maren")
    go "Desks"
    expect(page).to have_css("[aria-label=Startup] [data-thing]", count: 3)
    Capybara.using_session("other") do
      sign_in("maren")
      go "Desks"
      expect(page).to have_css("[aria-label=Startup] [data-thing]", count: 3)
      click_button "Remove #{names[2]}"
      expect(page).to have_css("[aria-label=Startup] [data-thing]", count: 2)
      expect(page).to have_content("2 brushes in the start-up plan")
    end
    execute_script("document.querySelectorAll('[data-thing] .key')[1].focus()")
    page.driver.browser.keyboard.type(%i[alt up])
    expect(page).to have_css("[data-thing]:first-child", text: names[1])
    expect(page).to have_css("[aria-label=Startup] [data-thing]", count: 2)
    expect(Studio::M::Desk.find(desk.id).preset_ids_in_order).to eq([presets[1].id, presets[0].id])
    Capybara.using_session("guest") do
      sign_in("ilse")
      go "Desks"
      expect(page).to have_css("[aria-label=Startup] [data-thing]", count: 2)
      expect(page).to have_no_button("Send to desk…")
      expect(page).to have_no_button("Remove #{names[0]}")
      visit "/#{@first.id}/desks?desk=999999"
      permit(/answer: 404/)
      expect(page).to have_css("[role=alert]", text: "This desk doesn’t exist")
    end
  end
end
