# frozen_string_literal: true

# Walks through all views: presses each button and menu item that ends with “…”, and closes what opens with Escape.
class Dialogs
  # Buttons that open the system's file picker.
  CHOOSERS = ["Upload a picture…", "Choose files…", "Choose a folder…"].freeze
  # The paths of all views, from the page's own list.
  VIEWS = File.read(File.expand_path("../../web/src/routes.ts", __dir__))
    .scan(/view\(\s*'[a-z-]+',\s*'[^']+',\s*(?:undefined|'[a-z-]+'),\s*'([^':]+)',/).flatten.freeze

  # @return [Array<String>] the dialogs that were opened, by view and label
  attr_reader :seen
  # @return [Array<String>] what went wrong
  attr_reader :troubles

  def initialize(page, library)
    @page = page
    @root = "/#{library.id}"
    @brush = library.presets.shown.find_by!(name: "Harbour fog")
    @seen = []
    @troubles = []
  end

  # @yieldparam place [String] view and label of the dialog that is open
  def each(&)
    ["/bench/#{@brush.id}", *VIEWS].each { |view| walk(view, &) }
  end

  private

  def walk(view, &)
    visit(view)
    # The tray is on every view; trying it once is enough.
    @buttons = (view == "/brushes") ? "main button, footer button" : "main button"
    2.times { press(".row .pick", "+") } if view == "/brushes"
    [nil, *menus].each do |menu|
      css = menu ? ".el-dropdown-menu__item" : @buttons
      open_menu(menu, css)
      labels(css).grep(/\S…\z/).-(CHOOSERS).each { |label| open_and_close(view, menu, css, label, &) }
    end
  end

  def open_and_close(view, menu, css, label)
    place = "#{view} › #{[menu, label].compact.join(" › ")}"
    visit(view) if @reload
    open_menu(menu, css)
    return unless labels(css).include?(label) # an earlier dialog may have removed it
    press(css, label)
    return trouble(place, "opens no dialog") unless @page.has_css?("[role=dialog]", wait: 5)
    @seen << place
    settle
    yield place
    # The first Escape may close a list of suggestions in the dialog.
    closed = 2.times.any? do
      @page.driver.browser.keyboard.type(:Escape)
      @page.has_no_css?("[role=dialog]", wait: 2)
    end
    trouble(place, "is not closed by Escape") unless closed
  end

  def trouble(place, what)
    @troubles << "#{place} #{what}"
    @reload = true
  end

  def visit(view)
    @reload = false
    @page.visit(%w[/notifications /studio].include?(view) ? view : "#{@root}#{view}")
    @page.has_css?("main h1, .brushes, .bench, .page", wait: 20)
    settle
  end

  # Waits until nothing moves and no answer is on its way, for later answers add buttons. One connection stays open.
  def settle
    @page.driver.browser.network.wait_for_idle(connections: 1, timeout: 10)
    @page.evaluate_async_script(<<~JS)
      Promise.allSettled(document.getAnimations().map((one) => one.finished)).then(arguments[0])
    JS
  end

  def open_menu(menu, css)
    return if !menu || @page.has_css?(css, wait: 0)
    press(@buttons, menu)
    @page.has_css?(css, wait: 5)
  end

  def menus = labels(@buttons).grep(/▾\z/)

  # The labels of what can be pressed, each once.
  def labels(css)
    @page.evaluate_script(<<~JS, css)
      [...new Set([...document.querySelectorAll(arguments[0])]
        .filter((one) => one.checkVisibility() && !one.disabled && !one.classList.contains('is-disabled'))
        .map((one) => one.innerText.trim()))]
    JS
  end

  def press(css, label)
    @page.execute_script(<<~JS, css, label)
      [...document.querySelectorAll(arguments[0])]
        .find((one) => one.checkVisibility() && one.innerText.trim() === arguments[1])?.click()
    JS
  end
end
