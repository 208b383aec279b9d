# frozen_string_literal: true

require_relative "browser"

# Does what is possible on every view, by chance: clicks, strokes, drags, typing, keys, back, reload, in
# two tabs. After each step the page must be sound; what was not is told with the steps that led to it.
class Wanderer
  # Raised with everything that was found.
  class Found < StandardError; end

  LOOK = File.read(File.expand_path("wanderer.js", __dir__))
  # Answers that a person's odd wish deserves; the page shows their sentences.
  SENTENCES = /\Aanswer: (404|409|422) /
  WORDS = [
    "fog",
    "size: under 20",
    "ink 2",
    "é´",
    "tag: ",
    "12",
    "0,5",
    "-3",
    "999999",
    "Ω brush",
    "\"",
    "   ",
    "a,b;c"
  ].freeze
  KEYS = [
    :Tab,
    :Enter,
    :Escape,
    :Down,
    :Up,
    :Left,
    :Right,
    :Space,
    "/",
    "?",
    "1",
    "3",
    "n",
    [:Control, "z"],
    [:Control, :Shift, "z"]
  ].freeze
  # How often each thing is done, of the sum of all.
  HABITS = {
    click: 12,
    view: 3,
    type: 3,
    key: 5,
    drag: 2,
    stroke: 4,
    slide: 5,
    back: 1,
    reload: 1,
    tab: 1,
    agree: 2
  }.freeze
  LAST = 10

  # @param role [String] a login of the demo
  # @param seed [Integer]
  # @param session [Capybara::Session]
  def initialize(role, seed:, session: Capybara::Session.new(:chromium, Capybara.app))
    @role = role
    @chance = Random.new(seed + login_number(role))
    @session = session
    @steps = []
    @troubles = []
  end

  # @return [Integer] how many steps were taken
  # @raise [Found]
  def go(seconds)
    sign_in
    until_time(seconds) { step }
    raise Found, "#{@troubles.join("\n\n")}\n(#{@steps.size} steps)" if @troubles.any?
    @steps.size
  ensure
    @session.driver.quit
  end

  private

  # So that each role walks a way of its own.
  def login_number(role) = role.sum * 1009

  def browser = @session.driver.browser

  def js(text, *arguments) = @session.evaluate_script(text, *arguments)

  def pick(list) = list.empty? ? nil : list[@chance.rand(list.size)]

  def until_time(seconds)
    ends = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
    yield while Process.clock_gettime(Process::CLOCK_MONOTONIC) < ends && @troubles.size < 3
  end

  def sign_in
    @session.visit "/"
    @session.fill_in "login", with: @role
    @session.fill_in "password", with: Studio::PASSWORD
    @session.click_button "Sign in"
    @session.find("header .who")
  end

  def step
    habit = HABITS.flat_map { |name, often| [name] * often }.then { pick(_1) }
    did = send(habit) or return
    @steps << "#{@role}: #{did}"
    settle
    check(did)
  rescue Ferrum::NodeNotFoundError, Ferrum::NoExecutionContextError, Capybara::ElementNotFound
    nil # the page went on while we looked
  end

  # What happened must have happened by now; a page at work has a little more time.
  def settle
    sleep 0.06
    60.times {
      js(
        "window.wander ? window.wander.busy() : document.readyState !== 'complete' || !document.querySelector('main, " \
          "form')"
      ) ? sleep(0.05) : break
    }
  end

  def look = js("(() => { #{LOOK}; return window.wander.look() })()")

  # --- what can be done ------------------------------------------------------------------------

  def click
    one = pick(look["buttons"]) or return
    js("window.wander.watch()")
    browser.mouse.click(x: one["x"], y: one["y"])
    settle
    moved = js("window.wander ? window.wander.moved() : true")
    idle = one["acts"] && !moved
    complain("does nothing", "click “#{one["name"]}”") if idle
    "click “#{one["name"]}” (#{one["where"]})"
  end

  def view
    one = pick(look["views"]) or return
    browser.mouse.click(x: one["x"], y: one["y"])
    "view #{one["name"]}"
  end

  def type
    one = pick(look["fields"]) or return
    word = pick(WORDS)
    browser.mouse.click(x: one["x"], y: one["y"])
    browser.keyboard.type(word, pick([:Enter, :Tab, :Escape]))
    "type #{word.inspect} into “#{one["name"]}”"
  end

  def key
    keys = pick(KEYS)
    browser.keyboard.type(keys)
    "key #{keys.inspect}"
  end

  def drag
    from, to = [place, place]
    browser.mouse.move(**from).down.move(**to, steps: 4).up
    "drag #{from.values.join(",")} → #{to.values.join(",")}"
  end

  def place = {x: 140 + @chance.rand(1120), y: 60 + @chance.rand(700)}

  def stroke
    pad = look["pad"] or return open_bench
    send = ->(type, x, y) {
      browser.page.command(
        "Input.dispatchMouseEvent",
        type:,
        x:,
        y:,
        button: "left",
        buttons: 1,
        clickCount: 1,
        pointerType: pick(%w[pen mouse]),
        force: @chance.rand,
        tiltX: 10
      )
    }
    x, y = [pad["x"] + @chance.rand(pad["width"]), pad["y"] + @chance.rand(pad["height"])]
    send["mousePressed", x, y]
    6.times { send["mouseMoved", x += @chance.rand(30) - 12, y += @chance.rand(24) - 12] }
    send["mouseReleased", x, y]
    "stroke on the pad"
  end

  def open_bench
    brush = pick(Studio::M::Preset.shown.where(library_id: Studio::M::Library.order(:id).first.id).ids)
    @session.visit "/bench/#{brush}"
    "open the Bench of #{brush}"
  end

  def slide
    one = pick(look["sliders"]) or return
    browser.mouse.move(x: one["x"], y: one["y"]).down.move(
      x: one["x"] + @chance.rand(160) - 80,
      y: one["y"],
      steps: 3
    ).up
    "slide “#{one["name"]}”"
  end

  def back
    pick([true, false]) ? @session.go_back : @session.go_forward
    # Before a tab's first page there is none.
    @session.go_forward if @session.current_url == "about:blank"
    "back or forward"
  end

  def reload
    @session.refresh
    @session.has_css?("header .who", wait: 10)
    "reload"
  end

  # A second tab of the same person, and back.
  def tab
    windows = @session.windows
    if windows.size < 2
      @session.switch_to_window(@session.open_new_window)
      @session.visit "/brushes"
      @session.has_css?("header .who", wait: 10)
    else
      @session.switch_to_window(pick(windows.reject(&:current?)))
    end
    "another tab"
  end

  # Every field of the Bench shows, after a reload, what it showed when all was kept.
  def agree
    return unless js("!!document.querySelector('.bench [data-setting]')")
    return unless @session.has_css?("header [role=status]", exact_text: /(kept)?/, wait: 5)
    sleep 0.7 # what was typed last is on its way
    return unless @session.has_css?("header [role=status]", exact_text: /(kept)?/, wait: 5)
    before = look["values"]
    @session.refresh
    @session.has_css?(".bench [data-setting]", wait: 10)
    settle
    after = look["values"]
    differing = before.reject { |name, value| !after.key?(name) || after[name] == value }
    if differing.any?
      complain(
        "another value after a reload",
        differing.map { |name, value|
          "#{name}: #{value} → #{after[name]}"
        }.join("; ")
      )
    end
    "reload, and compare #{before.size} fields"
  end

  # --- what must be so -------------------------------------------------------------------------

  def check(did)
    seen = look
    seen = look if seen["blank"] && sleep(3)
    complain("outside the window", seen["outside"].join("; ")) if seen["outside"].any?
    complain("the page scrolled away", "by #{seen["scrolled"]} px") if seen["scrolled"] != 0
    complain("nothing to see", did) if seen["blank"]
    heard = GUARD.troubles.grep_v(SENTENCES)
    heard.each { complain("the page said", _1) }
    GUARD.forget
  end

  def complain(what, more)
    @troubles << "#{what}: #{more}\n  at #{@session.current_path}, after\n  #{@steps.last(LAST).join("\n  ")}"
  end
end
