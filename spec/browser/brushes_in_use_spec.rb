# frozen_string_literal: true

require "support/browser"

# The Brushes, the sets, the dialogs and the addresses, as a day of use broke them.
RSpec.describe "Brushes in use", :browser do
  def names(list = page) = list.all("ol li b").map(&:text)

  def focused = evaluate_script("document.activeElement.getAttribute('aria-label')")

  def at(node, dx = 0.5, dy = 0.5)
    evaluate_script(
      "(r => [r.x + r.width * #{dx}, r.y + r.height * #{dy}])(arguments[0].getBoundingClientRect())",
      node
    )
  end

  def type(*keys) = page.driver.browser.keyboard.type(*keys)

  # Drags as a hand does, by its handle; with Ctrl held at the end, or not.
  def drag(from, to, control: false)
    mouse = page.driver.browser.mouse
    (x, y), (tx, ty) = at(from), at(to)
    mouse.move(x:, y:).down
    (1..20).each { |i| mouse.move(x: x + (tx - x) * i / 20.0, y: y + (ty - y) * i / 20.0) && sleep(0.02) }
    return mouse.up unless control
    page.driver.browser.page.command(
      "Input.dispatchMouseEvent",
      type: "mouseReleased",
      x: tx,
      y: ty,
      button: "left",
      clickCount: 1,
      modifiers: 2
    )
  end

  describe "its strips" do
    it "stand in columns where there is room, walked by the arrows, and grow up to the width there is" do
      sign_in("maren")
      page.driver.resize(1920, 1080)
      expect(page).to have_css(".list .row", count: 8)
      left = -> { all(".list .row").map { |row| at(row, 0).first.round }.uniq.size }
      expect(page).to have_css(".list .row[style*='left: 50%']")
      expect(left.call).to eq(2)
      find("[aria-rowindex='1']").click
      {right: 2, down: 4, left: 3, up: 1}.each do |key, place|
        type(key)
        expect(page).to have_css("[aria-rowindex='#{place}']:focus")
      end
      execute_script("document.querySelector('[role=slider][aria-label=\"Height of the strips\"]').focus()")
      type(:end)
      expect(page).to have_css(".list.below")
      share = "document.querySelector('.list .strip').clientWidth / document.querySelector('.list').clientWidth"
      expect(evaluate_script(share)).to be > 0.9
      expect(page).to have_css("[aria-rowindex='1'].on") # keys on the slider do not walk the list
    ensure
      page.driver.resize(1280, 800)
    end

    it "leave no count behind a line that is refused; a step back brings the last search" do
      announce(/answer: 422 GET .*brushes/)
      sign_in("maren")
      fill_in "Find a brush", with: "size under 20"
      expect(page).to have_css(".chip", text: "size: under 20")
      find(".facet", text: "lineart").click
      expect(page).to have_css(".chip", text: "tag: lineart")
      fill_in "Find a brush", with: "nonsense: x"
      expect(page).to have_css(".bar b", text: "No answer yet")
      go_back
      expect(page).to have_css(".chip", text: "tag: lineart")
      expect(find_field("Find a brush").value).to include("tag: lineart")
      go_back
      expect(page).to have_no_css(".chip", text: "tag: lineart")
      expect(page).to have_css(".chip", text: "size: under 20")
    end
  end

  describe "a set" do
    before do
      ids = @first.presets.in_order.ids
      @kit = @first.brush_sets.create!(name: "Kit").tap {
        _1.put_in_order(ids.first(5), {ids[0] => "One", ids[1] => "One", ids[2] => "Two"})
      }
      @other = @first.brush_sets.create!(name: "Other").tap { _1.put_in_order(ids.last(3)) }
      20.times { |i| @first.brush_sets.create!(name: "More #{i}") }
      sign_in("maren")
      go "Sets"
      expect(page).to have_css("ol li", count: 5)
      @names = names
    end

    it "takes moves as quick as they come, keeps the cursor where it was, and moves to any place" do
      execute_script(
        "for (let i = 0; i < 4; i++) document.querySelector(arguments[0]).click()",
        "[aria-label='Move #{@names[0]} down']"
      )
      expect(page).to have_content("New order in “Kit”")
      expect(page).to have_css("ol li:last-child b", text: @names[0])
      40.times { (@kit.preset_ids_in_order.last == @first.presets.find_by!(name: @names[0]).id) ? break : sleep(0.2) }
      visit "/sets?set=#{@kit.id}"
      expect(page).to have_css("ol li:last-child b", text: @names[0])
      execute_script("document.querySelector(arguments[0]).focus()", "[aria-label='Move #{@names[4]} up']")
      2.times do |i|
        type(:enter)
        expect(page).to have_css("ol li:nth-child(#{3 - i}) b", text: @names[4])
        expect(focused).to eq("Move #{@names[4]} up")
      end
      find("[aria-label^='#{@names[0]} stands at place']").click
      type([:control, "a"], "1", :enter)
      expect(page).to have_css("ol li:first-child b", text: @names[0])
      expect(page).to have_no_css("[role=alert]")
    end

    it "gives a brush to the set beside it by dragging, and with Ctrl keeps it too" do
      click_button "More ▾"
      expect(all(".el-dropdown-menu__item").size).to be < 20
      find(".el-dropdown-menu__item", text: "Open another set beside it…").click
      expect(page).to have_css("[role=dialog] input:focus")
      type("Other", :enter)
      expect(page).to have_css("[role=dialog] .el-select", text: "Other")
      type(:enter)
      expect(page).to have_css("section", text: "Other")
      left, right = all("section").to_a
      drag(left.all("ol li .grip")[1], right.all("ol li")[0])
      expect(left).to have_css("ol li", count: 4)
      expect(right).to have_css("ol li", count: 4)
      drag(left.all("ol li .grip")[1], right.all("ol li")[0], control: true)
      expect(right).to have_css("ol li", count: 5)
      expect(left).to have_css("ol li", count: 4)
      expect(page).to have_content("added to “Other”")
      until_true { [@kit, @other].map { |set| set.preset_ids_in_order.size } == [4, 5] }
      go_back
      expect(page).to have_no_css("section", text: "Other")
    end

    it "keeps its sections when it is ordered by size" do
      click_button "More ▾"
      find(".el-dropdown-menu__item", text: "Order by size").click
      expect(page).to have_content("New order in “Kit”")
      expect(all("ol h3").map(&:text)).to eq(["One", "Two", "no section"])
      expect(@kit.section_by_preset.values.tally).to eq({"One" => 2, "Two" => 1})
    end
  end

  it "asks in dialogs whose first field has the cursor and whose deed is done by Enter" do
    sign_in("maren")
    expect(page).to have_css(".row", count: 8)
    find("body").send_keys([:control, "a"])
    {
      "Tag" => ["squall", "Tagged 8 with “squall”"],
      "Add to set" => ["Night kit", "The set “Night kit” holds 8 brushes"],
      "Bundle" => ["Harbour kit", "Bundle “Harbour kit” created with 8 brushes"]
    }.each do |button, (word, done)|
      within("footer") { click_button button, exact: true }
      expect(page).to have_css("[role=dialog] input:focus")
      type(word, :enter)
      expect(page).to have_content(done)
      expect(page).to have_no_css("[role=dialog]")
    end
    # The toast lies at the lower right, above the tray.
    right, bottom, tray = evaluate_script(
      "(r => [innerWidth - r.right, r.bottom, document.querySelector('footer').getBoundingClientRect().top])" \
        "([...document.querySelectorAll('.toast')].at(-1).getBoundingClientRect())"
    )
    expect([right, tray - bottom]).to all(be_between(0, 30))
  end

  it "shows at every address what it says, or a sentence and a way back" do
    announce(/answer: 404 GET .*presets/, %r{answer: 404 GET /nowhere})
    elsewhere = Fobrel::Actions::CreatePreset.call(
      library: @second,
      person: nil,
      value: Fobrel::Core::Preset::Preset[@first.presets.first.current_version.document.merge(
        "id" => SecureRandom.uuid, "name" => "Elsewhere"
      )]
    )
    sign_in("maren")
    visit "/#{@first.id}/bench/#{elsewhere.id}"
    expect(page).to have_css(".bench h1", text: "Elsewhere")
    expect(page).to have_css(".libraries", text: @second.name)
    expect(current_path).to eq("/#{@second.id}/bench/#{elsewhere.id}")
    visit "/#{@first.id}/sets?set=99"
    expect(page).to have_css("[role=alert]", text: "This set doesn’t exist in #{@first.name}")
    visit "/#{@first.id}/bench/999"
    expect(page).to have_css("[role=alert]", text: "This doesn’t exist, or you don’t have access")
    visit "/77/brushes"
    expect(page).to have_content("This library doesn’t exist, or you’re not a member of it.")
    click_button "Go to Brushes"
    expect(page).to have_css(".row", minimum: 1)
    visit "/nowhere/at/all"
    expect(page).to have_content("Page not found.")
    sign_out
    visit "/#{@first.id}/import"
    fill_in "login", with: "ilse"
    fill_in "password", with: Studio::PASSWORD
    click_button "Sign in"
    expect(page).to have_content(
      "You are a guest in #{@first.name}: you can view its brushes, but “Import” is for artists and leads"
    )
    expect(all("nav.rail a").map(&:text)).to eq(%w[Brushes Sets Bundles Export Desks Sharing Library History])
  end

  it "shows a try again, not an empty page, when the server did not answer at first" do
    announce(/answer: 503 GET .*session/)
    sign_in("maren")
    page.driver.browser.network.intercept
    broken = true
    page.driver.browser.on(:request) { |request|
      (broken && request.url.end_with?("/api/session")) ? request.respond(
        responseCode: 503,
        body: '{"error":"The database is away. Nothing was changed. Try again in a moment."}'
      ) : request.continue
    }
    visit "/"
    expect(page).to have_css("[role=alert]", text: /Try again/)
    broken = false
    click_button "Try again"
    expect(page).to have_css("header .who")
  end

  it "takes all pictures of a file, and says that nothing is to be imported" do
    frames = [40, 90].map { |shade|
      Vips::Image.black(40, 40).invert.draw_rect([shade], 10, 10, 20, 20, fill: true).copy(interpretation: :b_w)
    }
    reel = File.join(files, "reel.tif").tap { |path|
      frames.inject { |one, two|
        one.join(two, :vertical)
      }.mutate { |m| m.set_type!(GObject::GINT_TYPE, "page-height", 40) }.tiffsave(path)
    }
    sign_in("maren")
    go "Tip maker"
    attach_file "Choose a picture", reel, make_visible: true
    expect(page).to have_css("[aria-label='Frame 2'] img")
    go "Import"
    attach_file "Choose files", reel, make_visible: true
    expect(page).to have_content("1 to import")
    click_button "Discard"
    expect(page).to have_content("discarded")
    File.write(odd = File.join(files, "odd.exe"), "MZ")
    attach_file "Choose files", odd, make_visible: true
    expect(page).to have_content("What is read: packages")
    expect(page).to have_button("Import into #{@first.name}", disabled: true)
    click_button "Discard"
    attach_file "Choose files",
      File.join(files, "leaf.svg").tap {
        File.write(
          _1,
          '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><circle cx="5" cy="5" r="4"/></svg>'
        )
      },
      make_visible: true
    click_button "Import into #{@first.name}"
    # Nothing moves any more once it can be taken back.
    expect(page).to have_button("Undo import")
    still(find(".report a", text: "leaf")).click
    expect(page).to have_css(".bench h1", text: "leaf")
  end
end
