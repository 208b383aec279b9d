# frozen_string_literal: true

require "support/browser"
require "support/running"

RSpec.describe "the Bench", :browser do
  def preset(name) = Studio::M::Preset.find_by!(name:)

  def draft(name) = Studio::M::Draft.find_by(preset: preset(name))&.document

  def stroke = (0..40).map { |i| [20 + i * 5, 60 + 25 * Math.sin(i * 0.2), 0.15 + 0.7 * i / 40] }

  def took = find("[data-test=painted]")["data-took"].to_i

  it "tunes by number, key, slider and two-way field; marks, counts and takes back setting by setting" do
    sign_in("maren")
    bench("Quay line")
    top = -> { evaluate_script("document.querySelector('[aria-label=Settings]').getBoundingClientRect().top") }
    before = top.call
    tune "Size in px", 28
    find_field("Hardness in %").click
    find_field("Hardness in %").send_keys(:down, :down)
    expect(page).to have_css("[data-group=tip]", text: /Tip\s*◗?\s*2/)
    expect(page).to have_content("Size 15 px → 28 px")
    expect(top.call).to eq(before) # nothing moves under the hand when what differs is told
    execute_script("document.querySelector('[aria-label^=\"Size across\"]').focus()")
    page.driver.browser.keyboard.type(:right, :up)
    expect(page).to have_field("Size in px", with: "29")
    expect(page).to have_field("Hardness in %", with: "99")
    find("[aria-label='Reset Size to 15 px']").click
    expect(page).to have_field("Size in px", with: "15")
    find("[aria-label='Reset all of Tip']").click
    expect(page).to have_content("no change")
    expect(page).to have_css("header [role=status]", exact_text: "")
    expect(draft("Quay line")).to be_nil
    # No hardness on a picture tip; its two-way field drives opacity.
    bench("Old fender")
    expect(page).to have_no_field("Hardness in %")
    expect(page).to have_css("[aria-label^='Size across, opacity up']")
  end

  it "bends responses in the grid; the line on the screen is the core's own" do
    sign_in("maren")
    bench("Quay line")
    from_menu "Add a setting", "flow"
    from_menu "Add an input", "tilt"
    click_button "Let flow respond to tilt"
    click_button "Firmer"
    expect(page).to have_css(".cell.set.moved", count: 1)
    expect(page).to have_css(".curve path.line[d^=M]")
    wide, tall = find(".curve")[:viewBox].split.last(2).map(&:to_f)
    drawn = find(".curve path.line")[:d].scan(/[ML]([\d.]+) ([\d.]+)/).map { |x, y| [x.to_f / wide, 1 - y.to_f / tall] }
    core = Fobrel::Core::Stroke::Curve.through([[0, 0], [0.5, 0.25], [1, 1]])
    expect(drawn.map { |x, y| (core.at(x) - y).abs }.max).to be < 0.01
    click_button "Copy"
    from_menu "Add a setting", "hue"
    from_menu "Add an input", "speed"
    click_button "Paste"
    expect(page).to have_css(".cell.set.moved", count: 2)
    execute_script("document.querySelectorAll('.curve circle')[1].focus()")
    page.driver.browser.keyboard.type(:up, :up)
    click_button "Invert"
    expect(page).to have_css("[role=status]", text: "kept")
    bent = -> {
      (draft("Quay line") || {}).fetch("response", []).find {
        _1["drives"] == "hue"
      }&.values_at("by", "curve")
    }
    40.times { (bent.call == ["speed", [[0, 1], [0.5, 0.71], [1, 0]]]) ? break : sleep(0.1) }
    expect(bent.call).to eq(["speed", [[0, 1], [0.5, 0.71], [1, 0]]])
  end

  # Pressure and tilt arrive through the browser's own protocol.
  it "paints on the pad with a pen, shows what it sends, warns of what it does not, keeps a stroke and replays it" do
    sign_in("maren")
    bench("Quay line")
    pad = find("canvas[aria-label='Pad to paint on']")
    pen_stroke(pad, stroke)
    expect(page).to have_css("[data-test=painted][data-strokes='1']")
    expect(find("[data-test=tilt]").text.to_i).to be_within(2).of(34)
    expect(find("[data-test=pressure]").text.to_i).to be > 50
    expect(page).to have_no_css(".warnings p")
    pen_stroke(pad, stroke.map { |x, y, _| [x, y + 40, 0.5] }, tilt: [0, 0])
    expect(page).to have_css("[data-test=painted][data-strokes='2']")
    expect(all(".warnings p").map(&:text)).to eq(
      [
        "This pen sends no pressure: pressure is constant.",
        "This pen sends no tilt."
      ]
    )
    click_button "Undo stroke"
    expect(page).to have_css("[data-test=painted][data-strokes='1']")
    click_button "Save as sample stroke"
    fill_in "Name of the sample stroke", with: "My wave"
    click_button "Save", exact: true
    expect(page).to have_content("“My wave” is saved")
    kept = Studio::M::SampleStroke.find_by!(name: "My wave")
    pressures = kept.samples.map { _1["pressure"] }
    expect([kept.samples.first["tiltX"], pressures.max]).to match([30, be_within(0.05).of(0.85)])
    expect(kept.samples.size).to be > 20
    click_button "Clear"
    select "a heavy hand", from: "Simulated pen"
    click_button "Paint the sample stroke"
    expect(page).to have_css("[data-test=painted]")
  end

  it "keeps five drafts through a restart of the server; takes them back with a preview; undoes it" do
    names = ["Quay line", "Chart nib", "Bollard", "Tide line", "Splice pen"]
    # The page looks whether something is new while the server is away; what was being painted ends with it.
    permit(/failed: .* net::ERR_CONNECTION/, /answer: 422 POST .*strip/)
    Running.server do |running|
      Capybara.app_host = running.address
      sign_in("maren")
      names.each_with_index do |name, i|
        bench(name)
        tune "Flow in %", 31 + i
        expect(page).to have_css("[role=status]", text: "kept")
      end
      running.restart
      visit "/"
      sign_out
      sign_in("maren")
      visit "/bench"
      expect(page).to have_css(".row", count: 5)
      expect(all(".row .words").map(&:text).grep(/Flow .* → 3\d %/).size).to eq(5)
      prints = Studio::M::Draft.pluck(:fingerprint).sort
      go "Brushes"
      click_button "Reset…"
      within("[role=dialog]") do
        expect(page).to have_css("label.row", count: 5)
        expect(page).to have_css("label.row .strip img", count: 10)
        click_button "Reset 5 brushes"
      end
      expect(page).to have_content("5 brushes reset to the baseline")
      expect(Studio::M::Draft.count).to eq(0)
      click_button "Undo"
      expect(page).to have_content("Undone.")
      expect(Studio::M::Draft.pluck(:fingerprint).sort).to eq(prints)
      names.first(2).each do |name|
        bench(name)
        save_version 2
      end
      visit "/bench"
      expect(page).to have_css(".row", count: 3)
      click_button "Discard all 3"
      expect(page).to have_content("No drafts")
      expect(names.map { preset(_1).reload.current_version.number }).to eq([2, 2, 1, 1, 1])
    end
  end

  it "has the last change older than a second when the browser is killed in mid-change" do
    other = Capybara::Session.new(:chromium, Capybara.app)
    Capybara.using_session(other) do
      sign_in("maren")
      bench("Quay line")
      @changes = []
      find_field("Size in px").click
      30.times do |i|
        find_field("Size in px").send_keys(:up)
        @changes << [Process.clock_gettime(Process::CLOCK_MONOTONIC), 15.5 + i * 0.5]
        sleep 0.08
      end
    end
    killed = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    Process.kill(:KILL, other.driver.browser.process.pid)
    sleep 0.3
    due = @changes.reverse.find { |at, _| at < killed - 1 }.last
    expect(draft("Quay line")["tip"]["size"]["base"]).to be >= due
  end

  it "shows both to the second of two who save, and brings them together setting by setting" do
    sign_in("maren")
    bench("Quay line")
    tune "Size in px", 50
    tune "Spacing in %", 60
    expect(page).to have_css("[role=status]", text: "kept")
    theirs = preset("Quay line").current_version.value
    changed = theirs.with(
      "tip",
      theirs["tip"].merge("size" => theirs["tip", "size"].merge("base" => 33), "angle" => 20)
    )
    click_button "Save version 2…"
    Fobrel::Actions::AddVersion.call(
      preset: preset("Quay line"),
      value: changed,
      person: Studio::M::Person.find_by!(login: "tove")
    )
    # As it falls out, the page has looked meanwhile and knows, or it learns with the answer.
    permit(/answer: 409 POST .*versions/)
    find("[role=dialog] button", text: /\ASave version [23]\z/).click
    within("[role=dialog]", text: "Tove Lindgaard saved version 2 in the meantime") do
      expect(page).to have_css(".painted img", count: 3)
      expect(page).to have_button("Save both as version 3", disabled: true)
      find("label", text: "Mine, 50 px").click
      click_button "Save both as version 3"
    end
    expect(page).to have_content("Saved as version 3, with both changes.")
    saved = preset("Quay line").current_version.value
    expect([saved["tip", "size", "base"], saved["tip", "angle"], saved["stroke", "spacing"]]).to eq([50, 20, 0.6])
  end

  it "captures nothing by chance, names and compares versions, sets a new baseline and resets to it exactly" do
    sign_in("maren")
    bench("Quay line")
    tune "Size in px", 28
    find(".setting", text: "Paint behind").find(".el-switch").click
    click_button "Save version 2…"
    expect(page).to have_content("Not saved: paint behind")
    click_button "Save version 2"
    expect(page).to have_content("Saved as version 2")
    expect(preset("Quay line").current_version.document["extras"]["behind"]).to be(false)
    click_button "History (2)"
    within("[data-version='1']") { click_button "Compare version 1 with the draft" }
    within("[data-version='2']") { click_button "Set as baseline" }
    expect(page).to have_content("Version 2 is now the baseline")
    within("[data-version='1']") do
      click_button "Add name"
      find("input[type=text]").set("As the maker meant it")
      click_button "Save", exact: true
      expect(page).to have_content("As the maker meant it")
    end
    find("[data-version='1'] .el-checkbox").click
    find("[data-version='2'] .el-checkbox").click
    expect(page).to have_content(/\d+(\.\d)? % alike · colour ΔE/)
    expect(page).to have_content("Size 15 px → 28 px")
    find(".el-drawer__close-btn").click
    expect(page).to have_css(".stack .rows .row", text: /Quay line\s*version 1/)
    baseline = preset("Quay line").baseline_version.fingerprint
    tune "Size in px", 60
    save_version 3
    from_menu "Reset ▾", "Reset to the baseline, version 2"
    within("[role=dialog]", text: "Reset brushes") do
      expect(page).to have_css("label.row .strip img", count: 2)
      click_button "Reset 1 brush"
    end
    expect(page).to have_content("1 brush reset to the baseline")
    expect(preset("Quay line").current_version.fingerprint).to eq(baseline)
  end

  it "lays my hand over a brush, fitted to my strokes, on and off" do
    sign_in("maren")
    bench("Quay line")
    plain = find("[data-test=live] img")[:src]
    find("[aria-label='Edit my adjustments']").click
    field = find("canvas[aria-label^='Draw three']")
    3.times { |i| pen_stroke(field, (0..40).map { |k| [20 + k * 6, 30 + i * 40, 0.02 + 0.38 * k / 40] }, wait: 0.004) }
    click_button "Fit the curve to 3 strokes"
    expect(page).to have_css("[role=dialog] .curve circle", minimum: 5)
    click_button "Save adjustments"
    expect(page).to have_button("My adjustments on")
    expect(page).to have_no_css("[data-test=live] img[src='#{plain}']")
    curve = Fobrel::Core::Stroke::Curve.through(Studio::M::Adjustments.first.settings["curve"])
    expect(curve.at(0.2)).to be_within(0.08).of(0.5)
    expect(preset("Quay line").versions.count).to eq(1)
    click_button "My adjustments on"
    expect(page).to have_button("My adjustments off")
  end
end
