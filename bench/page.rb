# frozen_string_literal: true

require "capybara"
require "ferrum"

# What the first view costs: how much a browser that has nothing yet is sent, and when the first strip is in sight.
$LOAD_PATH.unshift(File.expand_path("../spec", __dir__))
ENV["TEST_CLUSTER"] ||= "bench-page"
require "rspec/core"
require "support/browser"

Studio.clear
Fobrel::Demo::Studio.build
session = Capybara::Session.new(:chromium, Capybara.app)

# Signs in once, so that what is measured is the brush list.
session.visit "/"
session.fill_in "login", with: "maren"
session.fill_in "password", with: Studio::PASSWORD
session.click_button "Sign in"
session.has_css?("main .row img")
network = session.driver.browser.network

FIRST = <<~JS
  const look = () => {
    const strip = [...document.querySelectorAll('main .row img')].find((i) => i.complete && i.naturalWidth > 0)
    if (strip) done(performance.now()); else requestAnimationFrame(look)
  }
  look()
JS

measure = lambda do |cold|
  network.clear(:traffic)
  network.clear(:cache) if cold
  session.driver.browser.page.command("Network.setCacheDisabled", cacheDisabled: cold)
  session.visit "/"
  ms = session.driver.browser.evaluate_async("const done = arguments[0]; #{FIRST}", 30)
  sleep 0.5
  kinds = {"Script" => 0, "Stylesheet" => 0, "Font" => 0}
  network.traffic.each do |exchange|
    next unless exchange.response && kinds.key?(exchange.request.type.to_s)
    kinds[exchange.request.type.to_s] += exchange.response.headers.find { |name, _|
      name.casecmp?("content-length")
    }&.last.to_i
  end
  [kinds, ms]
end

kinds, cold = measure[true]
warm = Array.new(3) { measure[false].last }.min
total = kinds.values.sum / 1024.0
puts "", "The first view", "--------------"
puts format(
  "sent to a browser that has nothing: %.0f KB (wanted 250): scripts %.0f, styles %.0f, fonts %.0f",
  total,
  *kinds.values.map { _1 / 1024.0 }
)
puts format("first strip in sight after %.0f ms (wanted 1000); of a browser that was here before %.0f ms", cold, warm)
session.driver.quit
Studio.clear
ActiveRecord::Base.connection_handler.clear_all_connections!
TEST_POSTGRES&.stop
