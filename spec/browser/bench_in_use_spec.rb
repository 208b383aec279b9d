# frozen_string_literal: true

require "support/browser"

# The Bench used wrongly and long: the second stroke and the twentieth, two windows, two people, a
# slow network and none.
RSpec.describe "the Bench in use", :browser do
  let(:preset) { Studio::M::Preset.find_by!(name: "Quay line") }

  def draft = Studio::M::Draft.find_by(preset:, person: Studio::M::Person.find_by!(login: "maren"))&.document

  def size = draft&.dig("tip", "size", "base")

  def wave(y, x = 20) = (0..14).map { |i| [x + i * 12, y + 10 * Math.sin(i * 0.6), 0.2 + 0.05 * i] }

  def pad = find("canvas[aria-label='Pad to paint on']")

  def painted(count) = expect(page).to(have_css("[data-test=painted][data-strokes='#{count}'][data-behind=false]"))

  # Waits for what the server has.
  def kept = expect(page).to(have_css("header [role=status]", exact_text: "kept"))

  def in_another_window(login = "maren", open: true)
    Capybara.using_session("another") do
      sign_in(login) if open
      yield
    end
  end

  # A sum over what a picture shows.
  def pixels_of(selector)
    evaluate_script(<<~JS, selector)
      (() => {
        const i = document.querySelector(arguments[0]), c = document.createElement('canvas')
        c.width = i.naturalWidth; c.height = i.naturalHeight
        const g = c.getContext('2d'); g.drawImage(i, 0, 0)
        return g.getImageData(0, 0, c.width, c.height).data.reduce((sum, v, k) => (sum * 31 + v) % 1000003, 7) })()
    JS
  end

  describe "the pad" do
    it "takes twenty strokes of mouse, pen and finger, keeps its size, and repaints them while a setting moves" do
      sign_in("maren")
      bench("Quay line")
      before = pad.native.node.find_position
      room = evaluate_script(
        "(() => { const b = document.querySelector('[data-part=pad] .paper').getBoundingClientRect(); return " \
          "[b.width, b.height] })()"
      )
      10.times do |i|
        pen_stroke(pad, wave(20 + i * 16), wait: 0.001)
        pen_stroke(pad, wave(28 + i * 16).map { |x, y, _| [x, y, 0.5] }, pen: "mouse", tilt: [0, 0], wait: 0.001)
      end
      painted 20
      expect(page).to have_css(".warnings p")
      expect(page).to have_no_css("[role=alert]")
      expect(
        evaluate_script(
          "(() => { const b = document.querySelector('[data-part=pad] .paper').getBoundingClientRect(); return " \
            "[b.width, b.height] })()"
        )
      ).to eq(room)
      expect(pad.native.node.find_position).to eq(before)
      was = find("[data-test=painted]")[:src]
      tune "Size in px", 4
      expect(page).to have_no_css("[data-test=painted][src='#{was}']")
      painted 20
      click_button "Undo stroke"
      painted 19
      click_button "Clear"
      expect(page).to have_content("Paint here with pen")
    end

    it "takes a finger" do
      sign_in("maren")
      bench("Quay line")
      box = evaluate_script(
        "(() => { const b = document.querySelector('[data-part=pad] canvas').getBoundingClientRect(); return " \
          "[b.left, b.top] })()"
      )
      touch = ->(type, points) {
        page.driver.browser.page.command(
          "Input.dispatchTouchEvent",
          type:,
          touchPoints: points.map { |x, y|
            {x: box[0] + x, y: box[1] + y}
          }
        )
      }
      2.times do |i|
        touch["touchStart", [[20, 40 + 60 * i]]]
        10.times { |step| touch["touchMove", [[20 + 15 * step, 40 + 60 * i]]] }
        touch["touchEnd", []]
        painted i + 1
      end
      expect(page).to have_content("A finger sends no tilt.")
    end

    it "keeps strokes in any corner in sight through windows of every size" do
      sign_in("maren")
      bench("Quay line")
      width, height = evaluate_script(
        "(() => { const c = document.querySelector('[data-part=pad] canvas'); return [c.width, c.height] })()"
      )
      [[4, 4], [width - 30, 4], [4, height - 8], [width - 30, height - 8]].each_with_index do |(x, y), index|
        shown = evaluate_script(
          "(() => { const c = document.querySelector('[data-part=pad] canvas'); return " \
            "c.getBoundingClientRect().width / c.width })()"
        )
        pen_stroke(pad, (0..6).map { |i| [(x + i * 3) * shown, y * shown, 0.8] }, wait: 0.001)
        painted index + 1
        resize_to(*[[1024, 700], [1920, 1080], [1100, 640], [1280, 800]][index])
        sleep 0.2
        inside = evaluate_script(<<~JS)
          (() => {
            const box = (part) => document.querySelector('[data-part=pad] ' + part).getBoundingClientRect()
            const p = box('.paper'), h = box('.holder')
            return p.right <= h.right + 1 && p.bottom <= h.bottom + 1 })()
        JS
        expect(inside).to be(true)
      end
    ensure
      resize_to(1280, 800)
    end

    def resize_to(width, height) = page.driver.resize(width, height)
  end

  describe "going back and forth" do
    it "undoes and does again by keys and buttons, from a number field too, and after a reload" do
      sign_in("maren")
      bench("Quay line")
      tune "Size in px", 28
      kept
      tune "Angle in °", 40
      kept
      find_field("Angle in °").click
      page.driver.browser.keyboard.type([:Control, "z"])
      expect(page).to have_field("Angle in °", with: "0")
      expect(page).to have_field("Size in px", with: "28")
      visit current_path
      expect(page).to have_field("Size in px", with: "28")
      click_button "Redo"
      expect(page).to have_field("Angle in °", with: "40")
      2.times { find("body").send_keys([:Control, "z"]) && sleep(0.3) }
      expect(page).to have_field("Size in px", with: "15")
      expect(page).to have_button("Undo", disabled: true)
      until_true { draft.nil? }
      find("body").send_keys(%i[Control Shift] + ["z"])
      expect(page).to have_field("Size in px", with: "28")
    end
  end

  describe "two windows" do
    it "brings the changes of one person's windows together, and tells of them" do
      sign_in("maren")
      bench("Quay line")
      in_another_window do
        bench("Quay line")
        tune "Size in px", 50
        until_true { size == 50 }
      end
      tune "Angle in °", 33
      # As it falls out, the first window had looked before, or it learns with the answer.
      expect(page).to have_content(/from another window: Size 15 px → 50 px|Updated from another of your windows/)
      expect(page).to have_field("Size in px", with: "50")
      until_true { draft["tip"].slice("angle").merge("size" => size) == {"angle" => 33, "size" => 50} }
      in_another_window(open: false) do
        expect(page).to have_content("Updated from another of your windows")
        expect(page).to have_field("Angle in °", with: "33")
      end
    end

    it "learns by itself that somebody saved, locked or renamed, and blames nobody's draft for it" do
      sign_in("maren")
      bench("Quay line")
      tune "Angle in °", 20
      kept
      theirs = preset.current_version.value
      tove = Studio::M::Person.find_by!(login: "tove")
      Fobrel::Actions::AddVersion.call(
        preset:,
        value: theirs.with("tip", theirs["tip"].merge("size" => theirs["tip", "size"].merge("base" => 33))),
        person: tove
      )
      expect(page).to have_content("Tove Lindgaard saved version 2.")
      expect(page).to have_button("Save version 3…")
      expect(page).to have_css(".said", text: "Angle 0° → 20°")
      expect(first(".said").text).not_to include("Size")
      click_button "Version 2 is newer: merge…"
      click_button "Save both as version 3"
      expect(page).to have_content("Saved as version 3, with both changes.")
      expect(preset.reload.current_version.value["tip", "size", "base"]).to eq(33)
      preset.update!(locked_by: tove)
      expect(page).to have_content("Tove Lindgaard locked it.")
      expect(page).to have_css("header .locked")
    end
  end

  it "lists the drafts of other brushes beside the one on the Bench, goes to one, discards one, and learns of others" do
    sign_in("maren")
    ["Quay line", "Chart nib", "Bollard"].each do |name|
      bench(name)
      tune "Flow in %", 31
      kept
    end
    bench("Bollard")
    click_button "Drafts"
    # In one look: a row may go while the texts of several elements are read.
    listed = -> { evaluate_script(<<~JS) }
      [...document.querySelectorAll("aside[aria-label='Other drafts'] b")].map((one) => one.innerText).sort()
    JS
    until_true { listed.call == ["Chart nib", "Quay line"] }
    [[1280, 800], [1024, 700]].each do |width, height|
      page.driver.resize(width, height)
      until_true { evaluate_script(<<~JS) == [width, true, true] }
        [innerWidth, ...[...document.querySelectorAll('.bench header .el-button--primary, .bench .try > :last-child')]
          .map((one) => one.getBoundingClientRect().right <= innerWidth)]
      JS
    end
    within("aside[aria-label='Other drafts']") { click_link "Quay line" }
    expect(page).to have_css(".bench h1", text: "Quay line")
    until_true { listed.call == ["Bollard", "Chart nib"] }
    click_button "Discard the draft of Chart nib"
    until_true { listed.call == ["Bollard"] }
    within(".toasts") { click_button "Undo" }
    until_true { listed.call == ["Bollard", "Chart nib"] }
    in_another_window do
      bench("Splice pen")
      tune "Flow in %", 31
      kept
    end
    execute_script("window.dispatchEvent(new Event('focus'))") # as on coming back to this window
    until_true { listed.call == ["Bollard", "Chart nib", "Splice pen"] }
    click_button "Close the list of drafts"
    expect(page).to have_no_css("aside[aria-label='Other drafts']")
  ensure
    page.driver.resize(1280, 800)
  end

  describe "limits" do
    it "keeps the least size below the most, goes on keeping the rest, and points a size out that is held back" do
      sign_in("maren")
      bench("Quay line")
      tune "Maximum size in px", 30
      tune "Minimum size in px", 50
      expect(page).to have_field("Minimum size in px", with: "30")
      tune "Flow in %", 44
      kept
      expect(draft["paint"]["flow"]).to eq(0.44)
      tune "Minimum size in px", 1
      tune "Size in px", 60
      expect(page).to have_content("It paints at 30 px: the maximum size holds it there.")
      until_true { size == 60 }
    end
  end

  it "shows a guest every value, to scroll through, and nothing to change" do
    sign_in("ilse")
    bench("Quay line")
    expect(page).to have_css("[data-group=paint] .fixed", text: "100 %")
    expect(page).to have_no_css("[data-group] input, [data-group] [role=slider]")
    expect(page).to have_no_button("Save version 2…")
    scrolled = evaluate_script(
      "(() => { const t = document.querySelector('[aria-label=Settings]'); t.scrollTop = 9999; return [t.scrollTop > " \
        "0 || t.scrollHeight <= t.clientHeight, getComputedStyle(t).overflowY] })()"
    )
    expect(scrolled).to eq([true, "auto"])
    pen_stroke(pad, wave(60))
    painted 1
    find("body").send_keys([:Control, "s"], "n")
    expect(page).to have_no_css("[role=dialog]")
    click_button "View the tip"
    expect(page).to have_content("A round tip, computed")
    expect(page).to have_no_content("Replace with one from this library")
  end

  describe "in sight" do
    # Where each part must lie at 1280 × 800.
    it "has strips, twelve settings, the curve with all its deeds, the pad and saving in the window at once" do
      sign_in("maren")
      bench("Quay line")
      tune "Size in px", 28
      click_button "View the tip" # a dialog comes and goes
      find(".el-dialog__headerbtn").click
      seen = evaluate_script(<<~JS)
        (() => {
          const inside = (e) => { const b = e.getBoundingClientRect()
            return b.width > 0 && b.top >= 0 && b.left >= 0 && b.bottom <= innerHeight && b.right <= innerWidth }
          const cut = (e) => { const style = getComputedStyle(e)
            return e.children.length === 0 && e.scrollWidth > e.clientWidth + 1 && style.overflow !== 'visible' &&
              e.tagName !== 'INPUT' && style.display !== 'inline' }
          const all = (s) => [...document.querySelectorAll(s)]
          return {
            settings: all('[data-setting]').filter(inside).length,
            strips: all('.stack .rows .painted').filter(inside).length,
            curve: all('[data-part=response] .curve').every(inside),
            deeds: all('.deeds button').filter(inside).map((b) => b.textContent),
            pad: all('[data-part=pad] canvas').every(inside),
            head: all('.bench > header button').every(inside),
            tray: document.querySelector('footer').getBoundingClientRect().height,
            cut: all('.bench *').filter(cut).map((e) => e.textContent) } })()
      JS
      expect(seen).to include("strips" => 3, "curve" => true, "pad" => true, "head" => true, "cut" => [])
      expect(seen["settings"]).to be >= 12
      expect(seen["tray"]).to be <= 28
      expect(seen["deeds"]).to include("Linear", "Softer", "Firmer", "Invert", "Copy", "Paste", "Remove")
    end

    it "zooms on the paint, and pans all rows together" do
      sign_in("maren")
      bench("Quay line")
      slider = find("[aria-label=Zoom]")
      slider.click
      7.times { slider.send_keys(:right) }
      expect(page).to have_content("8×")
      still(first(".stack .rows .painted img"))
      rows = evaluate_script(<<~JS)
        [...document.querySelectorAll('.stack .rows .painted')].map((box) => {
          const i = box.querySelector('img'), b = box.getBoundingClientRect(), at = i.getBoundingClientRect()
          const c = document.createElement('canvas')
          c.width = b.width; c.height = b.height
          const g = c.getContext('2d')
          g.drawImage(i, at.left - b.left, at.top - b.top, at.width, at.height)
          const seen = g.getImageData(0, 0, c.width, c.height).data
          return { left: at.left - b.left, paint: seen.filter((v, k) => k % 4 === 3 && v > 40).length } })
      JS
      expect(rows.map { _1["paint"] }).to all(be > 500)
      expect(rows.map { _1["left"].round }.uniq.size).to eq(1)
      strip = still(first(".stack .rows .painted")).native.node
      x, y = strip.find_position
      mouse = page.driver.browser.mouse
      mouse.move(x:, y:).down.move(x: x - 60, y:, steps: 4)
      sleep 0.05 # a hand does not let go while it moves
      mouse.up
      until_true do
        after = evaluate_script(
          "[...document.querySelectorAll('.stack .rows .painted')].map((b) => " \
            "Math.round(b.querySelector('img').getBoundingClientRect().left - b.getBoundingClientRect().left))"
        )
        after.uniq.size == 1 && (after.first - rows.first["left"] + 60).abs <= 3
      end
    end

    it "shows strips that differ only in size on one scale" do
      large = preset.current_version.value
      Fobrel::Actions::AddVersion.call(
        preset:,
        value: large.with("tip", large["tip"].merge("size" => large["tip", "size"].merge("base" => 300))),
        person: Studio::M::Person.first
      )
      sign_in("maren")
      visit "/brushes"
      click_button "Reset…"
      within("[role=dialog]") do
        expect(page).to have_css("label.row img[src*='beside=']", count: 2)
        expect(page).to have_content("Size 300 px → 15 px") # now → then
        until_true {
          evaluate_script(
            "[...document.querySelectorAll('[role=dialog] label.row img')].every((i) => i.complete && i.naturalWidth)"
          )
        }
        tall = evaluate_script(<<~JS)
          [...document.querySelectorAll('[role=dialog] label.row img')].map((i) => {
            const c = document.createElement('canvas')
            c.width = i.naturalWidth; c.height = i.naturalHeight
            const g = c.getContext('2d'); g.drawImage(i, 0, 0)
            const rows = new Set()
            g.getImageData(0, 0, c.width, c.height).data.forEach((v, k) => {
              if (k % 4 === 3 && v > 40) rows.add(Math.floor(k / 4 / c.width)) })
            return rows.size })
        JS
        expect(tall[0]).to be > tall[1] * 1.5
      end
    end
  end

  describe "what a brush holds" do
    it "sets method, grain and tip; renames with a click; knows notes, tags, category" do
      @first.categories.create!(name: "Rigging", position: 0)
      fender = Studio::M::Preset.find_by!(name: "Old fender")
      grained = fender.current_version.value
      grained = grained.with("grain", {"asset" => grained.needs.first})
      Fobrel::Actions::AddVersion.call(preset: fender, value: grained, person: Studio::M::Person.first)
      sign_in("maren")
      bench("Quay line")
      select "garland", from: "Method"
      until_true { draft&.fetch("method") == "garland" }
      click_button "View the tip"
      find(".part", text: "Old fender").click
      until_true { draft.dig("tip", "form", "kind") == "picture" }
      expect(page).to have_content("Tip a picture")
      click_button "Choose a grain"
      find(".list .part", match: :first).click
      until_true { draft["grain"]&.fetch("asset") }
      click_button "Remove grain"
      until_true { draft["grain"].nil? }
      find("h1 .name").click
      page.driver.browser.keyboard.type("Harbour line", :enter)
      expect(page).to have_content("renamed: “Quay line” is “Harbour line” now")
      expect(page).to have_css(".bench h1", text: "Harbour line")
      expect(page).to have_no_content("is newer")
      from_menu "More ▾", "About this brush…"
      fill_in "Notes", with: "For ropes far away."
      find("[aria-label=Category]").click
      find(".el-select-dropdown__item", text: "Rigging", visible: true).click
      expect(page).to have_content("in the category “Rigging”")
      until_true { draft.dig("about", "notes") == "For ropes far away." }
      expect(preset.reload.category.name).to eq("Rigging")
    end

    it "chooses the colour in one place: the artist's, a fixed one, the tip's own" do
      sign_in("maren")
      bench("Old fender")
      old = Studio::M::Preset.find_by!(name: "Old fender")
      now = -> { Studio::M::Draft.find_by(preset: old)&.document }
      find(".setting.of-colour .el-select").click
      find(".el-select-dropdown__item", text: "the tip’s own", visible: true).click
      until_true { now.call&.dig("tip", "form", "colours") == "own" }
      find(".setting.of-colour .el-select").click
      find(".el-select-dropdown__item", text: "one fixed colour", visible: true).click
      until_true {
        now.call&.dig("paint", "colour", "mode") == "fixed" && now.call.dig("tip", "form", "colours") == "tint"
      }
      expect(page).to have_css("input[aria-label='The fixed colour']")
    end

    it "turns an angle round by half, says a hue in per cent, and where it hardly shows" do
      sign_in("maren")
      bench("Quay line")
      tune "Angle in °", 30
      click_button "½ turn"
      expect(page).to have_field("Angle in °", with: "-150")
      from_menu "Add a setting", "hue"
      click_button "Let hue respond to pressure"
      expect(page).to have_content("5.6 % of the circle; 5 to 8 % looks like watercolour")
      expect(page).to have_content("hardly shows on the current colour")
      click_button "Try it in blue"
      expect(page).to have_no_content("hardly shows")
      click_button "About Flow"
      expect(page).to have_css("figure .painted img", count: 2)
      expect(page).to have_content("flow builds up")
    end

    it "saves as new with tags, category and notes; says in the dialog why not, and keeps what was typed" do
      announce(/answer: 422 POST .*variations/)
      sign_in("tove")
      bench("Quay line")
      tune "Size in px", 9
      find("body").send_keys("n")
      expect(page).to have_css("[role=dialog] :focus")
      fill_in "Name of the new brush", with: "Old fender"
      fill_in "Notes of the new brush", with: "Thin."
      expect(page).to have_content("Merge")
      click_button "Save new brush"
      expect(page).to have_css("[role=dialog] [role=alert]", text: "A brush called “Old fender” is already here.")
      expect(page).to have_field("Notes of the new brush", with: "Thin.")
      fill_in "Name of the new brush", with: "Thin quay"
      find_field("Name of the new brush").send_keys(:enter)
      expect(page).to have_css(".bench h1", text: "Thin quay")
      about = Studio::M::Preset.find_by!(name: "Thin quay").current_version.value["about"]
      expect(about.slice("author", "notes")).to eq({"author" => "Tove Lindgaard", "notes" => "Thin."})
      expect(page).to have_content("as made")
      from_menu "More ▾", "Copy settings…"
      within("[role=dialog]", text: "Copy settings into") do
        expect(page).to have_content("Tip includes the tip itself")
        expect(page).to have_button("Copy into my draft", disabled: true)
      end
    end
  end

  it "goes from Brushes to a saved version in eleven keys, and passes groups of settings with one Tab each" do
    sign_in("maren")
    expect(page).to have_css("main .row", minimum: 3)
    press = ->(*keys) { keys.each { page.driver.browser.keyboard.type(_1) && sleep(0.25) } }
    press["/", "q", "u", "a", "y", :Down]
    expect(page).to have_css(".found[aria-selected=true]", text: "Quay line")
    press[:Enter]
    expect(page).to have_css("[data-test=live] img")
    press["1", :Left]
    until_true { draft }
    press[[:Control, "s"]]
    expect(page).to have_css("[role=dialog] :focus")
    press[:Enter]
    expect(page).to have_content("Saved as version 2")
    press["1"]
    stops = Array.new(6) {
      press[:Tab] && evaluate_script(
        "document.activeElement.closest('[data-group]')?.dataset.group ?? " \
          "document.activeElement.closest('[data-part]')?.dataset.part ?? document.activeElement.className"
      )
    }
    expect(stops.first(3)).to eq(%w[stroke paint extras])
    press["2", :Down]
    expect(evaluate_script("document.activeElement.getAttribute('aria-label')")).to eq("Scatter across")
    press["?"]
    expect(page).to have_content("Undo, redo")
  end

  describe "a session that ends" do
    it "keeps what was being tuned, asks for the password over the page, and goes on" do
      announce(/answer: 401/)
      permit(/answer: 4(22|03) POST .*session/)
      sign_in("maren")
      bench("Quay line")
      page.driver.remove_cookie("fobrel.session")
      tune "Size in px", 44
      within("[role=dialog]", text: "Sign in again") do
        expect(page).to have_content("Your work is still here")
        fill_in "password-again", with: "wrong"
        click_button "Sign in"
        expect(page).to have_css("[role=alert]", text: "Wrong name or password")
        fill_in "password-again", with: Studio::PASSWORD
        click_button "Sign in"
      end
      expect(page).to have_no_content("Sign in again")
      expect(page).to have_field("Size in px", with: "44")
      until_true { size == 44 }
    end

    it "says of no view that there is nothing in it" do
      announce(/answer: 401/)
      sign_in("maren")
      Studio::M::SignIn.delete_all
      # Whether a look of the page's own comes first or this click, as it falls out.
      execute_script("document.querySelector('nav a[href$=\"/history\"]').click()")
      expect(page).to have_content("Sign in again")
      expect(page).to have_no_content("No changes yet")
    end

    it "minds a role that changes, at the next answer" do
      # Which of the page's own looks comes first is as it falls out; one that a guest may not have says so, too.
      permit(%r{answer: 403 GET /api/libraries/\d+/tasks})
      sign_in("maren")
      bench("Quay line")
      expect(page).to have_css("nav.rail a", text: "Import")
      Studio::M::Membership.find_by!(
        person: Studio::M::Person.find_by!(login: "maren"),
        library: @first
      ).update!(role: "guest")
      expect(page).to have_content("You’re now guest in this library.")
      expect(page).to have_no_css("nav.rail a", text: "Import")
      expect(page).to have_no_css("[data-group] input")
    end
  end

  describe "a network that fails" do
    it "keeps the last stroke in sight with a word, and what was tuned, and sends it by itself" do
      announce(/failed: .*ERR_INTERNET_DISCONNECTED/)
      sign_in("maren")
      bench("Quay line")
      offline
      tune "Size in px", 44
      expect(page).to have_content("offline; kept in this browser")
      expect(page).to have_content("last stroke; waiting for the connection")
      expect(page).to have_content("Offline, reconnecting…")
      expect(page).to have_no_content("Failed to fetch")
      expect(evaluate_script("Object.keys(localStorage).filter((key) => key.includes('unsent')).length")).to eq(1)
      offline(on: false)
      until_true { size == 44 }
      kept
      expect(page).to have_no_content("waiting for the connection")
      expect(evaluate_script("Object.keys(localStorage).filter((key) => key.includes('unsent')).length")).to eq(0)
    end

    it "keeps what waited through a reload" do
      permit(/failed: /)
      sign_in("maren")
      bench("Quay line")
      page.driver.browser.network.blocklist = [%r{/draft}]
      tune "Size in px", 44
      expect(page).to have_content("kept in this browser")
      page.driver.browser.network.clear(:traffic)
      page.driver.browser.network.blocklist = []
      visit "/brushes"
      expect(page).to have_content("Your earlier changes to “Quay line” are now saved")
      until_true { size == 44 }
    end

    it "saves once, though the answer was lost" do
      announce(/failed: .*ERR_INTERNET_DISCONNECTED/)
      sign_in("maren")
      bench("Quay line")
      tune "Size in px", 44
      kept
      click_button "Save version 2…"
      Late.answers(longest: 1.5, seed: 3) do
        click_button "Save version 2"
        sleep 0.05
        offline
        sleep 2.5
        offline(on: false)
        expect(page).to have_content("Saved as version 2")
      end
      expect(preset.reload.versions.count).to eq(2)
    end
  end

  it "moves no button of a dialog when it becomes known, late, where the brush is used" do
    @first.bundles.create!(name: "Storm kit").put_in_order([preset.id])
    sign_in("maren")
    bench("Quay line")
    tune "Size in px", 44
    held = []
    page.driver.browser.network.intercept
    page.driver.browser.on(:request) { |request|
      request.url.end_with?("/uses") ? held << request : request.continue
    }
    click_button "Save version 2…"
    expect(page).to have_css("[role=dialog] .uses", text: "–")
    place = -> { find("[role=dialog] button[type=submit]").evaluate_script("this.getBoundingClientRect().top") }
    before = place.call
    until_true { held.any? }
    held.each(&:continue)
    expect(page).to have_css("[role=dialog] .uses", text: "bundle Storm kit")
    expect(place.call).to eq(before)
  end

  it "shows in the end what was asked last, however late and out of order answers come" do
    sign_in("maren")
    bench("Quay line")
    Late.answers(longest: 0.7, seed: 11) do
      pen_stroke(pad, wave(60))
      [20, 55, 33, 70, 28].each { tune("Size in px", _1) }
      find("[aria-label='Sample stroke']").click
      find(".el-select-dropdown__item", text: "Hatching", visible: true).click
      expect(page).to have_css("[data-test=alike]", text: "alike")
      expect(page).to have_no_css("[data-behind=true]")
      until_true { size == 28 }
    end
    shown = pixels_of("[data-test=live] img")
    alike = find("[data-test=alike]").text
    visit current_path
    expect(page).to have_css("[data-test=alike]", text: alike)
    expect(pixels_of("[data-test=live] img")).to eq(shown)
    # So does the tip that a picture becomes.
    visit "/tip-maker"
    expect(page).to have_content("Drop pictures here")
    Late.answers(longest: 0.7, seed: 7) do
      find("input[type=file]", visible: :all, match: :first).attach_file(scan("tip.png"))
      expect(page).to have_css("[data-test=tip]")
      3.times { click_button("Invert") && sleep(0.1) }
      expect(page).to have_no_css("[data-behind=true]")
    end
    tip = find("[data-test=tip]")[:src]
    2.times { click_button("Invert") && expect(page).to(have_no_css("[data-behind=true]")) }
    expect(find("[data-test=tip]")[:src]).to eq(tip)
    # Facets and what was found belong to the last question, too.
    visit "/brushes"
    expect(page).to have_css("main .row", minimum: 3)
    Late.answers(longest: 0.7, seed: 5) do
      %w[fog rope line].each { fill_in("Find a brush", with: _1) && sleep(0.2) }
      expect(page).to have_css("main .row", text: /line/i, minimum: 1)
      sleep 1
      expect(all("main .row").map(&:text).join).not_to match(/fog/i)
    end
  end
end
