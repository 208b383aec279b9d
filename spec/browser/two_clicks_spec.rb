# frozen_string_literal: true

require "support/browser"

RSpec.describe "everything", :browser do
  # Twenty things by name, and the clicks that lead there from where one is after signing in.
  things = {
    "all brushes" => [["Brushes"], "/brushes"],
    "duplicates" => [["Brushes", "Duplicates"], "/brushes/duplicates"],
    "what was hidden" => [["Brushes", "Hidden"], "/brushes/hidden"],
    "the Bench" => [["Bench"], "/bench"],
    "a new tip" => [["Tip maker"], "/tip-maker"],
    "tips and grains" => [["Tip maker", "Tips and grains"], "/tip-maker/parts"],
    "sets" => [["Sets"], "/sets"],
    "bundles" => [["Bundles"], "/bundles"],
    "an import of files" => [["Import"], "/import"],
    "the external gallery" => [["Import", "External gallery"], "/import/gallery"],
    "past exports" => [["Export"], "/export"],
    "export templates" => [["Export", "Export templates"], "/export/templates"],
    "desks" => [["Desks"], "/desks"],
    "proposals" => [["Sharing"], "/sharing/proposals"],
    "following" => [["Sharing", "Following"], "/sharing/following"],
    "versions in use" => [["Sharing", "Versions in use"], "/sharing/versions"],
    "people" => [["Library", "People"], "/library/people"],
    "categories and tags" => [["Library", "Categories and tags"], "/library/categories"],
    "storage" => [["Library", "Storage"], "/library/storage"],
    "history" => [["History"], "/history"]
  }

  it "is at most two clicks away, has an address of its own, and Back goes through the tabs" do
    sign_in("maren")
    things.each do |thing, (clicks, path)|
      within("nav.rail") { click_link clicks.first }
      within("nav.tabs") { click_link clicks.last } if clicks.size > 1
      expect(page).to have_current_path(%r{\A/#{@first.id}#{path}}), thing
      expect(page).to have_css("nav.rail [aria-current=page]", text: clicks.first)
      expect(page).to have_css("nav.tabs [aria-current=page]", text: clicks.last) if clicks.size > 1
    end
    expect(things.size).to eq(20)
    within("nav.rail") { click_link "Sharing" }
    within("nav.tabs") { click_link "Versions in use" }
    expect(page).to have_current_path("/#{@first.id}/sharing/versions", ignore_query: true)
    page.go_back
    expect(page).to have_current_path("/#{@first.id}/sharing/proposals", ignore_query: true)
    expect(page).to have_css("nav.tabs [aria-current=page]", text: "Proposals")
    find(".bell").click
    expect(page).to have_current_path("/#{@first.id}/notifications", ignore_query: true)
  end

  it "on the rail is reached by keys, each entry with its icon" do
    sign_in("maren")
    expect(all("nav.rail a").map(&:text)).to eq(
      ["Brushes", "Bench", "Tip maker", "Sets", "Bundles", "Import", "Export", "Desks", "Sharing", "Library", "History"]
    )
    expect(page).to have_css("nav.rail a svg", count: 11)
    execute_script("document.querySelector('nav.rail a').focus()")
    walked = Array.new(11) {
      evaluate_script("document.activeElement.innerText.trim()").tap { page.driver.browser.keyboard.type(:tab) }
    }
    expect(walked).to eq(all("nav.rail a").map(&:text))
  end
end
