# frozen_string_literal: true

# Runs axe-core on the page.
module AxeHelp
  AXE = File.expand_path("../../web/node_modules/axe-core/axe.min.js", __dir__)

  # @param place [String] named in each finding
  # @return [Array<String>] findings of any impact, best practice included
  def findings(place)
    page.driver.browser.execute(File.read(AXE))
    found = evaluate_async_script(<<~JS)
      const [done] = arguments
      // Suggestions are walked with the arrow keys, so their list needs no focus. Pop-up lists are outside the landmarks.
      const skip = { exclude: ['.el-autocomplete-suggestion'] }
      axe.run(skip, { resultTypes: ['violations'], rules: { region: { enabled: false } } })
        .then((r) => done(r.violations
          .map((v) => v.id + ': ' + v.nodes.map((n) => n.html.slice(0, 160)).slice(0, 3).join(' '))))
    JS
    found.map { "#{place}: #{_1}" }
  end
end
