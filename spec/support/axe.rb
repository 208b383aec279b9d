# frozen_string_literal: true

# axe-core's rules, on the page as it stands.
module AxeHelp
  AXE = File.expand_path("../../web/node_modules/axe-core/axe.min.js", __dir__)

  # @param place [String] what the findings are told of
  # @return [Array<String>] findings of any impact, best practice included
  def findings(place)
    page.driver.browser.execute(File.read(AXE))
    found = evaluate_async_script(<<~JS)
      const [done] = arguments
      // A list of suggestions is walked with the arrow keys; lists that pop up stand beside the landmarks, where they can lie over everything.
      axe.run({ exclude: ['.el-autocomplete-suggestion'] }, { resultTypes: ['violations'], rules: { region: { enabled: false } } })
        .then((r) => done(r.violations
          .map((v) => v.id + ': ' + v.nodes.map((n) => n.html.slice(0, 160)).slice(0, 3).join(' '))))
    JS
    found.map { "#{place}: #{_1}" }
  end
end
