# frozen_string_literal: true

require_relative "studio"
require "capybara/rspec"
require "capybara/cuprite"
require_relative "guard"
require_relative "late"
require_relative "running"

GUARD = Guard.new

Capybara.register_driver(:chromium) do |app|
  Capybara::Cuprite::Driver.new(
    app,
    # The program itself: what lies in /usr/bin only begins it, and would be ended in its place.
    browser_path: "/usr/lib/chromium/chromium-headless-shell",
    window_size: [1280, 800],
    timeout: 60,
    process_timeout: 60,
    js_errors: false,
    logger: GUARD,
    save_path: File.join(ENV.fetch("FOBREL_VAR"), "downloads"),
    browser_options: {
      "no-sandbox" => nil,
      "disable-gpu" => nil,
      "force-prefers-reduced-motion" => nil,
      "disable-quic" => nil,
      "in-process-gpu" => nil,
      "renderer-process-limit" => "2",
      "disable-site-isolation-trials" => nil,
      "disable-software-rasterizer" => nil,
      "no-first-run" => nil,
      "disable-background-networking" => nil,
      "disable-component-update" => nil,
      "disable-sync" => nil
    }
  )
end
Capybara.app = Late.new(Fobrel::App.build(secret: "b" * 64))
Capybara.server = :puma, {Silent: true, Threads: "1:24", Host: "127.0.0.1"}
Capybara.server_host = "127.0.0.1"
Capybara.default_driver = :chromium
Capybara.javascript_driver = :chromium
# Long, for a machine that does much else; shorter where failures are looked for.
Capybara.default_max_wait_time = Integer(ENV.fetch("BROWSER_WAIT", 40))
# Each look costs the browser and this process some milliseconds, which others could use meanwhile.
Capybara.default_retry_interval = 0.1
Capybara.enable_aria_label = true

# What a person does in the browser.
module BrowserHelp
  # Where servers run as processes of their own, each person has one of their addresses.
  attr_reader :addresses

  # The names of all hints of the page.
  HINTS = File.read(File.expand_path("../../web/src/hints.ts", __dir__)).scan(/^  '?([a-z-]+)'?: '/).flatten.freeze

  # Brings the browser a session, which is quicker than the form; that has specs of its own.
  def sign_in(login)
    Capybara.app_host = address_of(login) if addresses
    server = Capybara.app_host || page.server.base_url
    page.driver.set_cookie("fobrel.session", session_of(login, URI(server)), domain: URI(server).host, httponly: true)
    visit "/"
    expect(page).to have_css("header .who", text: Studio::M::Person.find_by!(login:).name[0])
  end

  # As the form does it: the cookie's first value comes with the token that the second request must name.
  def session_of(login, server)
    Net::HTTP.start(server.host, server.port) do |http|
      asked = http.get("/api/session")
      answer = http.post(
        "/api/session",
        JSON.generate(login:, password: Studio::PASSWORD),
        "Content-Type" => "application/json",
        "Cookie" => asked["Set-Cookie"][/\A[^;]+/],
        "X-CSRF-Token" => JSON.parse(asked.body).fetch("csrf")
      )
      answer["Set-Cookie"][/\Afobrel\.session=([^;]+)/, 1]
    end
  end

  def address_of(login) = addresses[(login == "maren") ? 0 : 1]

  def sign_out
    find("header .who").click
    find("li", text: "Sign out").click
    expect(page).to have_button("Sign in")
  end

  # Views that are tabs of another entry of the rail.
  TABS = {
    "Duplicates" => "Brushes",
    "Hidden" => "Brushes",
    "Tips and grains" => "Tip maker",
    "External gallery" => "Import",
    "Export templates" => "Export",
    "Proposals" => "Sharing",
    "Following" => "Sharing",
    "Versions in use" => "Sharing",
    "People" => "Library",
    "Categories and tags" => "Library",
    "Overview" => "Library",
    "Storage" => "Library"
  }.freeze

  # A choice in the menu of one's initial.
  def from_account(choice)
    find("header .who").click
    find("li", text: choice).click
  end

  # Opens a view by way of the rail, the bell or the account's menu.
  def go(view)
    return find(".bell").click if view == "Notifications"
    return from_account("Studio administration") if view == "Studio"
    within("nav.rail") { click_link TABS.fetch(view, view) }
    within("nav.tabs") { click_link view } if TABS.key?(view)
  end

  def choose_library(name)
    find(".libraries").click
    find(".el-select-dropdown__item", text: name).click
    expect(page).to have_css(".libraries", text: name)
  end

  # Through the browser's own drag protocol, as a file manager would.
  def drop_file(path, x: 640, y: 400)
    data = {items: [], files: [path], dragOperationsMask: 1}
    send = ->(type) { page.driver.browser.page.command("Input.dispatchDragEvent", type:, x:, y:, data:) }
    page.execute_script("addEventListener('drop', () => { document.body.dataset.dropped = '' }, {once: true})")
    # Chromium cancels a drop while a busy page hasn't answered the drag; a person would try again.
    5.times do
      %w[dragEnter dragOver].each(&send)
      next unless page.document.has_css?(".dropping", wait: 4)
      %w[dragOver drop].each(&send)
      break if page.document.has_css?("body[data-dropped]", wait: 2)
    end
    page.execute_script("delete document.body.dataset.dropped")
  end

  # Chooses in one of the page's own selects, which hang their list elsewhere.
  def select(choice, from:)
    select_box(from).click
    page.document.find(".el-select-dropdown__item", text: choice, visible: true).click
    expect(page.document).to have_no_css(".el-select-dropdown__item", text: choice, visible: true)
  end

  # @return [String] what stands in a select
  def selected(name) = select_box(name).text

  # What is seen and pressed of a select; its field itself is not.
  def select_box(name) = find("[role=combobox][aria-label='#{name}']", visible: :all).ancestor(".el-select")

  # Waits until something is so, at the server too.
  def until_true(seconds = 40)
    (seconds * 10).times { yield ? return : sleep(0.1) }
    expect(yield).to be_truthy
  end

  # Waits until an element stands where it stood a moment ago: a hand aims at what does not move.
  def still(element)
    place = -> {
      evaluate_script("(() => { const b = arguments[0].getBoundingClientRect(); return [b.left, b.top] })()", element)
    }
    was = place.call
    40.times do
      sleep 0.05
      now = place.call
      break if now == was
      was = now
    end
    element
  end

  # Types a number into a field and leaves it, as a hand at the keyboard does.
  def tune(field, number)
    still(find_field(field)).click
    page.driver.browser.keyboard.type(number.to_s, :tab)
  end

  # What this spec provokes: answers of 400 and above, failed requests, errors on the console.
  def announce(...) = GUARD.announce(...)

  # What may happen in this spec or not, such as a look that falls into a restart.
  def permit(...) = GUARD.permit(...)

  # A choice behind a button of the Bench's head line.
  def from_menu(button, choice)
    click_button button
    find(".el-dropdown-menu__item", text: choice, visible: true).click
  end

  # The network goes, for all that the page asks, and comes back.
  def offline(on: true)
    network = page.driver.browser.network
    network.emulate_network_conditions(offline: on, latency: 0, download_throughput: -1, upload_throughput: -1)
  end

  def save_version(number, note: "")
    click_button "Save version #{number}…"
    fill_in "Note for this version", with: note
    click_button "Save version #{number}"
    expect(page).to have_content("Saved as version #{number}")
  end

  # Opens a brush on the Bench and waits until it lies there.
  def bench(name)
    visit "/bench/#{Studio::M::Preset.find_by!(name:).id}"
    expect(page).to have_css(".bench h1", text: name)
    expect(page).to have_css("[data-test=live] img")
  end

  # A pen's stroke through the browser's own input, pressure and tilt included.
  def pen_stroke(canvas, points, tilt: [30, 20], pen: "pen", wait: 0.008)
    box = evaluate_script(
      "(() => { const b = arguments[0].getBoundingClientRect(); return [b.left, b.top] })()",
      canvas
    )
    send = ->(type, (x, y, force)) {
      page.driver.browser.page.command(
        "Input.dispatchMouseEvent",
        type:,
        x: box[0] + x,
        y: box[1] + y,
        button: "left",
        buttons: 1,
        clickCount: 1,
        pointerType: pen,
        force:,
        tiltX: tilt[0],
        tiltY: tilt[1]
      )
    }
    send["mousePressed", points.first]
    points.each { |point| send["mouseMoved", point] && sleep(wait) }
    send["mouseReleased", points.last]
  end

  def row(name) = find(".row", text: /\A#{Regexp.escape(name)}\b/)

  def files = ENV.fetch("FOBREL_VAR")

  # A dark mark on grainy, not quite white paper.
  def scan(name, seed: 4)
    chance = Random.new(seed)
    rows = Array.new(140) do |y|
      Array.new(200) { |x|
        (Math.hypot(x - 120, (y - 66) * 1.6) < 34) ? 2 : (241 + (chance.rand - 0.5) * 14).round.clamp(0, 255)
      }
    end
    File.join(files, name).tap { |path|
      Vips::Image.new_from_array(rows).cast(:uchar).copy(interpretation: :b_w).pngsave(path)
    }
  end
end

RSpec.configure do |config|
  config.include Capybara::DSL, :browser
  config.include Capybara::RSpecMatchers, :browser
  config.include BrowserHelp, :browser
  config.before(:each, :browser) do
    # A strip belongs to what it shows, whichever example painted it.
    @first, @second = Studio.again(keep: %w[strips])
    # People who have been here before; the hints have a spec of their own.
    Studio::M::Person.update_all(hints: BrowserHelp::HINTS)
    GUARD.forget
  end
  config.before(:each, :apart) { @addresses = (@apart = Running::Apart.new).addresses }
  config.after(:each, :apart) { @apart&.stop }
  config.after(:each, :browser) do |example|
    seen = File.expand_path("../../var/failed-#{example.metadata[:line_number]}.png", __dir__)
    if example.exception
      page.save_screenshot(seen) # rubocop:disable Lint/Debugger
      said = [page.current_url, page.text[0, 600], *GUARD.troubles].join("\n")
      RSpec.configuration.reporter.message("#{example.description}, at its end:\n#{said}")
    end
    troubles = GUARD.troubles
    # A page that is still there would ask on without its cookie, into the next example.
    Capybara.send(:session_pool).each_value { |one|
      one.driver.browser.page.command("Page.navigate", url: "about:blank")
    }
    Capybara.reset_sessions!
    GUARD.forget
    raise Guard::Trouble, "the page had troubles:\n#{troubles.join("\n")}", [] if troubles.any? && !example.exception
  end
end
