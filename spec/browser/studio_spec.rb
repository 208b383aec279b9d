# frozen_string_literal: true

require "support/browser"

# For the studio’s administrator the installation.
RSpec.describe "Studio", :browser do
  it "tells of backups of everything, makes one at a press, and says when none can be made" do
    Studio::M::Person.find_by!(login: "maren").update!(owner: true)
    sign_in("maren")
    go "Studio"
    within("section", text: "Studio backups") do
      expect(page).to have_content("None yet.")
      click_button "Back up now"
      expect(page).to have_css("tr", text: /Maren Oake.*being made|test restore passed/)
      page.refresh
    end
    within("section", text: "Studio backups") do
      expect(page).to have_css("tr", text: /Maren Oake.*rows, \d+ pictures.*test restore passed/, wait: 60)
      FileUtils.rm_rf(File.join(ENV.fetch("FOBREL_VAR"), "backups"))
      File.write(File.join(ENV.fetch("FOBREL_VAR"), "backups"), "in the way")
      page.refresh
    end
    within("section", text: "Studio backups") do
      expect(page).to have_css("tr", text: "its file has been deleted")
      click_button "Back up now"
      expect(page).to have_css("tr", text: /Backup failed.*File exists.*Earlier backups are untouched/, wait: 60)
    end
  ensure
    FileUtils.rm_rf(File.join(ENV.fetch("FOBREL_VAR"), "backups"))
  end

  it "is for the studio’s administrator only, by the address too" do
    sign_in("tove")
    expect(page).to have_no_link("Studio")
    visit "/studio"
    expect(page).to have_no_content("Studio backups")
    expect(page).to have_content("the studio’s administrator")
  end
end
