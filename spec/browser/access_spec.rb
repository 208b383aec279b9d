# frozen_string_literal: true

require "support/browser"
require "support/axe"

# What a screen reader, a keyboard and weak eyes need. Outside reference: axe-core's rules for WCAG 2.1,
# A and AA, and for best practice.
RSpec.describe "what everybody can use", :browser do
  include AxeHelp

  views = %w[
    tip-maker
    bench
    tip-maker/parts
    brushes
    sets
    library/categories
    brushes/duplicates
    import
    import/gallery
    bundles
    export
    export/templates
    desks
    library
    sharing/proposals
    sharing/following
    sharing/versions
    notifications
    library/people
    library/overview
    history
    brushes/hidden
    library/storage
    studio
  ]

  before { Studio::M::Person.find_by!(login: "maren").update!(owner: true) }

  define_method(:at) do |view|
    visit %w[studio notifications].include?(view) ? "/#{view}" : "/#{@first.id}/#{view}"
    expect(page).to have_css("main h1, .brushes, .bench, .page", wait: 20)
    sleep 0.5 # what comes with a picture
    view
  end

  it "has no finding on any view, by day, and by night where most is looked at" do
    sign_in("maren")
    by_day = [*views, "bench/#{@first.presets.first.id}"].flat_map { |view| findings(at(view)) }
    expect(by_day).to eq([])
    click_button "Switch to Night"
    by_night = ["brushes", "desks", "history", "sets", "bench/#{@first.presets.first.id}"].flat_map { |view|
      findings("night, #{at(view)}")
    }
    click_button "Switch to Day"
    expect(by_night).to eq([])
  end

  it "has none in its dialogs, holds the focus in them and gives it back" do
    sign_in("maren")
    at("brushes")
    first(".list .row").click
    click_button "Select Bollard"
    %w[Tag Rename Reset Bundle Export].each do |name|
      button = find("button", text: name, match: :first, exact_text: true)
      button.click
      expect(page).to have_css("[role=dialog]")
      sleep 0.4 # it fades in
      expect(findings(name)).to eq([])
      within_dialog = "!!document.activeElement.closest('[role=dialog]')"
      12.times do
        page.driver.browser.keyboard.type(:Tab)
        expect(evaluate_script(within_dialog)).to be(true), "the focus leaves “#{name}”"
      end
      page.driver.browser.keyboard.type(:Escape)
      expect(page).to have_no_css("[role=dialog]")
    end
  end

  it "keeps every button in reach where all is shown twice as large" do
    sign_in("maren")
    page.driver.browser.resize(width: 640, height: 450) # 1280 × 900 at 200 %
    all = [*views, "bench/#{@first.presets.first.id}"]
    lost = all.flat_map do |view|
      at(view)
      # Only a table may be wider than the window (WCAG 2.1, 1.4.10), in a frame of its own that runs sideways.
      wide = evaluate_script(<<~JS)
        [...document.querySelectorAll('main *')]
          .filter((one) => one.checkVisibility() && !one.closest('.wide, .table, table'))
          .filter((one) => one.getBoundingClientRect().right > innerWidth + 60)
          .map((one) => one.className + ' ' + one.textContent.trim().slice(0, 40)).slice(0, 3)
      JS
      wide.map { "#{view} is too wide: #{_1}" } + evaluate_script(<<~JS).map { "#{view}: #{_1}" }
        [...document.querySelectorAll('main button, main a, header button, nav a')]
          .filter((one) => one.checkVisibility() && !one.closest('[aria-hidden=true]'))
          .filter((one) => { one.scrollIntoView({ block: 'nearest', inline: 'nearest' })
            const r = one.getBoundingClientRect()
            return r.right < 8 || r.left > innerWidth - 8 || r.bottom < 8 || r.top > innerHeight - 8 })
          .map((one) => one.innerText || one.getAttribute('aria-label'))
      JS
    end
    expect(lost).to eq([])
    at("brushes")
    wide = evaluate_script("document.querySelector('.list .row img').getBoundingClientRect().width")
    expect(wide).to be > 300
    click_button "Filters"
    expect(page).to have_css("aside[aria-label=Filters]")
  ensure
    page.driver.browser.resize(width: 1280, height: 800)
  end
end
