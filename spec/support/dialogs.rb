# frozen_string_literal: true

# Opens whatever is behind a button or menu item that ends with “…”, view by view, and closes it with Escape.
class Dialogs
  # What opens the system's own choice of a file.
  CHOOSERS = ["Upload a picture…", "Choose files…", "Choose a folder…"].freeze
  # Paths of all views that stand on the rail or in the account menu, of the page's own list.
  VIEWS = File.read(File.expand_path("../../web/src/routes.ts", __dir__))
    .scan(/view\(\s*'[a-z-]+',\s*'[^']+',\s*(?:undefined|'[a-z-]+'),\s*'([^':]+)',/).flatten.freeze

  # @return [Array<String>] what was opened: view and words
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

  # @yieldparam place [String] view and words of the dialog that is open
  def each(&)
    ["/bench/#{@brush.id}", *VIEWS].each { |view| each_on(view, &) }
  end

  private

  def each_on(view, &)
    visit(view)
    # The tray lies below every view; once is enough.
    @buttons = (view == "/brushes") ? "main button, footer button" : "main button"
    2.times { press(".row .pick", "+") } if view == "/brushes"
    [nil, *menus].each do |menu|
      css = menu ? ".el-dropdown-menu__item" : @buttons
      unfold(menu, css)
      ending(css).each { |text| try(view, menu, css, text, &) }
    end
  end

  def try(view, menu, css, text)
    place = "#{view} › #{[menu, text].compact.join(" › ")}"
    visit(view) if @astray
    unfold(menu, css)
    return unless words(css).include?(text) # gone with what an earlier one changed
    press(css, text)
    return trouble(place, "opens no dialog") unless @page.has_css?("[role=dialog]", wait: 5)
    @seen << place
    sleep 0.3 # it fades in
    yield place
    # The first Escape may close a list of suggestions in it.
    2.times { open? && @page.driver.browser.keyboard.type(:Escape) && sleep(0.3) }
    trouble(place, "is not closed by Escape") unless @page.has_no_css?("[role=dialog]", wait: 5)
  end

  def trouble(place, what)
    @troubles << "#{place} #{what}"
    @astray = true
  end

  def visit(view)
    @astray = false
    @page.visit(%w[/notifications /studio].include?(view) ? view : "#{@root}#{view}")
    @page.has_css?("main h1, .brushes, .bench, .page", wait: 20)
    sleep 0.5 # what comes with a later answer
  end

  def open? = @page.has_css?("[role=dialog]", wait: 0)

  def unfold(menu, css)
    return if !menu || @page.has_css?(css, wait: 0)
    press(@buttons, menu)
    @page.has_css?(css, wait: 5)
  end

  def menus = words(@buttons).grep(/▾\z/)

  def ending(css) = words(css).grep(/\S…\z/) - CHOOSERS

  # What can be pressed, by its words, each once.
  def words(css)
    @page.evaluate_script(<<~JS, css)
      [...new Set([...document.querySelectorAll(arguments[0])]
        .filter((one) => one.checkVisibility() && !one.disabled && !one.classList.contains('is-disabled'))
        .map((one) => one.innerText.trim()))]
    JS
  end

  def press(css, text)
    @page.execute_script(<<~JS, css, text)
      [...document.querySelectorAll(arguments[0])]
        .find((one) => one.checkVisibility() && one.innerText.trim() === arguments[1])?.click()
    JS
  end
end
