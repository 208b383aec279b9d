# frozen_string_literal: true

require "support/browser"

# A whole team, each in a browser of their own.
# Each in a browser of their own, and at their own address where there are several.
module Several
  def as(name, &)
    was = Capybara.app_host
    Capybara.app_host = address_of(name) if addresses
    Capybara.using_session(name, &)
  ensure
    Capybara.app_host = was
  end

  def enter(login)
    as(login) { sign_in(login) }
  end

  def header_says(count) = expect(page).to have_css("header .bell b", text: count.to_s, wait: 5)

  def choose(label, text) = select(text, from: label)

  def choose_radio(title) = find("label", text: title).click
end

# At two web processes that share nothing but the database, and a worker.
RSpec.describe "a team", :apart, :browser do
  include Several

  let(:good) { "tide over the harbour brushes" }

  it "grows by an invitation, used once; the first try with a bad password loses nothing that was typed" do
    announce(/answer: 422 POST/)
    sign_in("maren")
    go "People"
    click_button "Invite…"
    fill_in "Name", with: "Nils"
    click_button "Create link"
    link = find(".link").text.sub(%r{\Ahttp://[^/]+}, "")
    click_button "Close"
    expect(page).to have_css(".one", text: "Nils")
    as("nils") do
      visit link
      expect(page).to have_content("invites you to")
      fill_in "Login name", with: "nils"
      fill_in "Password", with: "password123"
      click_button "Join"
      expect(page).to have_css("[role=alert]", text: "tried first")
      expect(find_field("Login name").value).to eq("nils")
      fill_in "Password", with: good
      click_button "Join"
      expect(page).to have_css("header .who[aria-label='Signed in as Nils']")
      expect(page).to have_css(".row", minimum: 3)
    end
    permit(/answer: 404 GET/)
    as("late") do
      visit link
      expect(page).to have_css("[role=alert]", text: "no longer valid")
    end
    page.refresh
    expect(selected("Role of Nils")).to eq("Artist: edit")
  end

  it "proposes, decides and is told within a second, without reloading" do
    enter("tove")
    enter("maren")
    as("tove") do
      row("Quay line").find(".pick").click
      click_button "More ▾"
      find(".el-dropdown-menu__item", text: "Copy to another library…").click
      choose "Into which library", "Second unit"
      click_button "Copy"
      expect(page).to have_content("taken from “Storm over Skerrow”")
      choose_library "Second unit"
      row("Quay line").double_click
      expect(page).to have_css("[data-test=live] img")
      tune "Size in px", 33
      expect(page).to have_css("[role=status]", text: "kept")
      from_menu "More", "Propose…"
      choose "To which library", "Storm over Skerrow"
      fill_in "Why", with: "Broader, for the near brushes"
      click_button "Propose"
      expect(page).to have_content("Its leads are notified")
    end
    as("maren") do
      header_says 1
      find("header .bell b").click
      find(".one a", text: "Broader, for the near brushes").click
      expect(page).to have_css("article img", minimum: 2)
      click_button "Try on the pad…"
      click_button "Paint the sample stroke"
      expect(page).to have_css("[data-test=painted][data-strokes='1']")
      proposed = find("[data-test=painted]")[:src]
      choose_radio "Quay line, as it is here"
      expect(page).to have_no_css("[data-test=painted][src='#{proposed}']")
      find(".el-dialog__headerbtn").click
      click_button "Accept as version 2", match: :first
      fill_in "Message", with: "Just right"
      click_button "Accept as next version"
      expect(page).to have_content("accepted as version 2 by Maren Oake")
    end
    expect(Studio::M::Preset.where(name: "Quay line").order(:id).first.current_version.value["tip", "size", "base"])
      .to eq(33)
    as("tove") do
      header_says 1
      go "Notifications"
      expect(page).to have_css(".one", text: "Just right")
      expect(page).to have_no_css("header .bell b")
      page.refresh
      expect(page).to have_no_css("header .bell b")
    end
  end

  def release(number, said)
    click_button "Release…"
    click_button "Release #{number}"
    expect(page).to have_content("#{number} released with #{said}")
  end

  def here(name) = @second.presets.find_by!(name:).reload.current_version.value["tip", "size", "base"]

  it "follows, is told of the next release, decides what both changed, and goes back" do
    bundle = @first.bundles.create!(name: "Storm kit", licence: "CC-BY-4.0", author: "Maren Oake")
    bundle.put_in_order(@first.presets.shown.where(name: ["Quay line", "Chart nib"]).order(:name).ids)
    came = @first.presets.find_by!(name: "Quay line").current_version.value["tip", "size", "base"]
    enter("maren")
    as("maren") do
      visit "/#{@first.id}/bundles?bundle=#{bundle.id}"
      release("1.0.0", "2 brushes")
    end
    enter("tove")
    as("tove") do
      choose_library "Second unit"
      go "Following"
      select "Storm kit 1.0.0", from: "A bundle to follow"
      click_button "Follow"
      expect(page).to have_content("“Storm over Skerrow” has been asked whether this library may follow it.")
    end
    # Whoever leads the publisher lets the other library follow.
    as("maren") do
      header_says 1
      visit "/#{@first.id}/sharing/following"
      within(".one", text: "Second unit") { click_button "Allow" }
      expect(page).to have_css(".one", text: "may follow bundles of this library")
    end
    as("tove") do
      header_says 1
      select "Storm kit 1.0.0", from: "A bundle to follow"
      click_button "Follow"
      expect(page).to have_content("“Storm kit” is followed: 2 brushes are here.")
      go "Brushes"
      row("Quay line").double_click
      expect(page).to have_css(".bench h1", text: "Quay line")
      tune "Size in px", 33
      save_version 2
      go "Following"
      expect(page).to have_content("up to date, 1.0.0")
    end
    as("maren") do
      bench("Quay line")
      tune "Size in px", 60
      save_version 2
      visit "/#{@first.id}/bundles?bundle=#{bundle.id}"
      expect(page).to have_css("h1", text: "Storm kit")
      release("2.0.0", "2 brushes")
    end
    as("tove") do
      header_says 2
      expect(page).to have_content("at 1.0.0; 2.0.0 is out", wait: 5)
      click_button "Review changes…"
      expect(page).to have_content("Still to decide: Quay line")
      expect(page).to have_css("article[aria-label='Quay line'] img", count: 3)
      expect(page).to have_button("Update to 2.0.0", disabled: true)
      within("article[aria-label='Quay line']") { choose_radio(/Theirs, 60/) }
      click_button "Update to 2.0.0"
      expect(page).to have_content("up to date, 2.0.0")
      expect(here("Quay line")).to eq(60)
      click_button "Go back to 1.0.0…"
      click_button "Update to 1.0.0"
      expect(page).to have_content("at 1.0.0; 2.0.0 is out")
      expect(here("Quay line")).to eq(came)
    end
  end
end

RSpec.describe "several people", :browser do
  include Several

  it "points at a place of a stroke, with the mouse and the keys" do
    sign_in("maren")
    row("Quay line").find(".words b").click
    find("label", text: "about version 1").click
    find(".point.moves").click
    find(".point.moves").send_keys(:right, :right, :up)
    fill_in "Write a comment", with: "It thins here"
    click_button "Post"
    expect(page).to have_css(".one .text", text: "It thins here")
    said = Studio::M::Comment.sole
    expect([said.version, said.x, said.y]).to match([1, be_within(0.01).of(0.54), be_within(0.02).of(0.44)])
    page.refresh
    row("Quay line").find(".words b").click
    expect(find(".one .point i", visible: :all)[:style]).to include("left: 5")
  end

  it "shows on the Bench who else is there, and a version the moment it came" do
    enter("tove")
    as("tove") { bench("Quay line") }
    enter("maren")
    as("maren") do
      bench("Quay line")
      expect(page).to have_css(".others", text: "Tove Lindgaard has it on the Bench too")
      tune "Size in px", 40
      expect(page).to have_css("[role=status]", text: "kept")
      save_version 2
    end
    as("tove") { expect(page).to have_content("Maren Oake saved version 2.", wait: 5) }
  end

  it "signs out elsewhere at once, whoever has the cookie" do
    permit(/answer: 401/)
    enter("maren")
    sign_in("maren")
    find("header .who").click
    find("li", text: "Account and sessions…").click
    click_button "Sign out everywhere else"
    expect(page).to have_no_button("Sign out")
    as("maren") do
      page.refresh
      expect(page).to have_button("Sign in")
    end
  end
end
