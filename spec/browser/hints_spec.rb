# frozen_string_literal: true

require "support/browser"

RSpec.describe "hints", :browser do
  it "says once what a view is for, and never again once that was read" do
    Studio::M::Person.update_all(hints: [])
    sign_in("tove")
    expect(page).to have_css(".hint", text: "double-click to open the brush on the Bench")
    go "Sets"
    expect(page).to have_css(".hint", text: "A set keeps brushes in the order you need them")
    click_button "Got it"
    expect(page).to have_no_css(".hint")
    page.refresh
    go "Brushes"
    expect(page).to have_css(".hint", text: "double-click")
    go "Sets"
    expect(page).to have_no_css(".hint")
    expect(Studio::M::Person.find_by!(login: "tove").hints).to eq(["sets"])
  end

  it "leads whoever begins a studio through the first steps, and is put away for good" do
    maren = Studio::M::Person.find_by!(login: "maren")
    maren.update!(owner: true)
    @first.memberships.where.not(person: maren).destroy_all
    sign_in("maren")
    within(".checklist") do
      expect(page).to have_css("li.done", text: "Make or import a brush")
      expect(all("a").map(&:text)).to eq(["Put brushes into a set", "Invite a colleague", "Set up a desk"])
      click_link "Invite a colleague"
    end
    click_button "Invite…"
    fill_in "Name", with: "Nils"
    click_button "Create link"
    expect(page).to have_css(".link")
    click_button "Close"
    go "Brushes"
    expect(page).to have_css(".checklist li.done", text: "Invite a colleague")
    click_button "Put away"
    expect(page).to have_no_css(".checklist")
    page.refresh
    expect(page).to have_css(".row")
    expect(page).to have_no_css(".checklist")
  end
end
