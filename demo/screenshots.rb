# frozen_string_literal: true

# Takes a picture of each main view of a running server with demo data:
#   PORT=4810 bundle exec ruby demo/screenshots.rb docs/screenshots [view …]
require "ferrum"
require "tmpdir"
require_relative "brushes"
require_relative "gallery"

folder = ARGV.shift or abort "usage: demo/screenshots.rb FOLDER [view …]"
wanted = ARGV
address = "http://127.0.0.1:#{ENV.fetch("PORT", 4810)}"
browser = Ferrum::Browser.new(
  browser_path: "/usr/lib/chromium/chromium-headless-shell",
  window_size: [1280, 800],
  timeout: 30,
  process_timeout: 30,
  browser_options: {
    "no-sandbox" => nil,
    "disable-background-networking" => nil,
    "disable-component-update" => nil,
    "disable-sync" => nil
  }
)

# The element, as soon as the page has it.
see = lambda do |css|
  100.times do
    found = browser.at_css(css)
    return found if found
    sleep 0.1
  end
  abort "#{css} never came"
end
shot = lambda do |name|
  next unless wanted.empty? || wanted.include?(name)
  browser.network.wait_for_idle(connections: 1, timeout: 10)
  sleep 0.4
  browser.screenshot(path: File.join(folder, "#{name}.png"))
end
press = lambda do |text|
  50.times { browser.at_xpath("//button[contains(., '#{text}')]") ? break : sleep(0.1) }
  browser.at_xpath("//button[contains(., '#{text}')]").click
end
ground = ->(name) { browser.evaluate("localStorage.setItem('fobrel.ground', '#{name}')") }

browser.page.set_viewport(width: 1280, height: 800)
browser.go_to(address)
browser.network.wait_for_idle(connections: 1)
see.call("input[name=login]")
see.call("input[name=login]").focus.type("maren")
browser.at_css("input[name=password]").focus.type("storm over skerrow", :enter)
browser.network.wait_for_idle(connections: 1)
sleep 0.5
# As for somebody who has been here before.
hints = File.read(File.expand_path("../web/src/hints.ts", __dir__)).scan(/^  '?([a-z-]+)'?: '/).flatten
browser.evaluate_async(<<~JS, 30, hints)
  (async () => {
    for (const hint of arguments[0]) {
      const { csrf } = await (await fetch('/api/session')).json()
      await fetch(`/api/me/hints/${hint}`, {
        method: 'PUT', headers: { 'X-CSRF-Token': csrf, 'Content-Type': 'application/json', 'Idempotency-Key': crypto.randomUUID() }, body: '{}' })
    }
    arguments[arguments.length - 1]()
  })()
JS
browser.refresh
[3, 5, 6, 7].each { |number| see.call(".row:nth-of-type(#{number}) .pick").click }
browser.css(".row")[3].click
sleep 0.6
shot.call("brushes")
picked = browser.evaluate(
  "[...document.querySelectorAll('.row .pick.on')].map((pick) => pick.closest('[data-id]').dataset.id)"
)
browser.go_to("#{address}/brushes/compare?ids=#{picked.join(",")}")
see.call("table")
sleep 2
shot.call("compare")
browser.go_to("#{address}/brushes")
see.call(".pick")
browser.css(".pick.on").each(&:click)
ground.call("dark")
browser.go_to("#{address}/brushes")
browser.network.wait_for_idle(connections: 1)
see.call(".row")
browser.css(".row")[5].click
sleep 0.6
shot.call("brushes-night")
ground.call("light")
browser.go_to("#{address}/brushes?search=harbour+fog")
browser.network.wait_for_idle(connections: 1)
see.call(".peek h2")
press.call("Open on the Bench")
see.call(".setting")
flow = see.call("[aria-label='Flow in %']")
flow.focus.type([:control, "a"], "24", :tab)
browser.at_css("[aria-label^='size by pressure']").click
press.call("Paint the sample stroke")
sleep 2.5
browser.execute("document.querySelector('.tuning').scrollTop = 0")
shot.call("bench")
{
  "bundles" => ".flight",
  "library/categories" => ".item",
  "library/overview" => ".bars",
  "brushes/duplicates" => ".strip",
  "brushes/hidden" => ".empty"
}.each do |view, ready|
  browser.go_to("#{address}/#{view}")
  see.call(ready)
  sleep 0.8
  shot.call(view.split("/").last)
end
browser.go_to("#{address}/tip-maker")
browser.network.wait_for_idle(connections: 1)
page = File.join(Dir.tmpdir, "kelp_page.png")
File.binwrite(page, Fobrel::Demo::Drawing.sketchbook_page)
see.call("input[type=file]").select_file(page)
see.call("[data-test=tip]")
[2, 3, 6].each { |number| see.call("[aria-label='Mark #{number} on the page']").click && sleep(0.3) }
press.call("Make solid")
sleep 3
shot.call("tip-maker")
browser.go_to("#{address}/tip-maker/parts")
see.call(".part")
sleep 1.5
browser.css(".part")[6].click
sleep 0.8
shot.call("tips-and-grains")
browser.go_to("#{address}/sharing/proposals")
see.call("article img")
sleep 1
press.call("Accept as new brush")
shot.call("proposals")
browser.go_to("#{address}/sharing/versions")
see.call("[role=table]")
shot.call("versions")
browser.go_to("#{address}/sets")
see.call(".sets li")
shot.call("sets")
browser.go_to("#{address}/desks")
browser.network.wait_for_idle(connections: 1)
see.call("[data-thing]")
press.call("Line desk 1")
press.call("Restart desk")
sleep 2
press.call("Line desk 2")
sleep 1
press.call("On disk")
sleep 1
shot.call("desks")

# A package with some that are here, one that paints otherwise, and two that are new.
here = Fobrel::Demo::Brushes.all.values_at(0, 1, 40, 43)
items = here.each_with_index.map do |brush, index|
  settings = (index == 1) ? brush.settings.merge("stroke" => {"spacing" => 0.9}) : brush.settings
  name = (index > 1) ? "Guest #{brush.name.downcase}" : brush.name
  settings = settings.merge("paint" => {"flow" => 0.6}) if index > 1
  Fobrel::Core::Package::Bundle::Item.new(preset: Fobrel::Core::Preset::Preset.build(name, settings), version: 1)
end
pictures = here.flat_map(&:pictures).to_h {
  ["sha256:#{Digest::SHA256.hexdigest(_1)}", Fobrel::Core::Package::Bundle::Asset.new(bytes: _1, ext: "png")]
}
parcel = File.join(Dir.tmpdir, "guest-kit.fobrel.zip")
File.binwrite(
  parcel,
  Fobrel::Core::Package::Writer.zip(
    Fobrel::Core::Package::Bundle.build(
      items:,
      assets: pictures,
      name: "Guest kit",
      author: "Ilse Brandow"
    )
  )
)
browser.go_to("#{address}/import")
see.call("[aria-label='Choose files']").select_file(parcel)
see.call(".item")
sleep 2.5 # the line at the foot goes
press.call("✕") if browser.at_xpath("//button[contains(., '✕')]")
sleep 1
shot.call("import")
browser.go_to("#{address}/import/gallery")
sleep 1
browser.at_css("[aria-label='Token of the gallery']")&.focus&.type(Fobrel::Demo::Gallery::TOKEN, :enter)
see.call("article")
shot.call("gallery")
browser.go_to("#{address}/history")
see.call(".summary")
browser.css(".summary").first.click # with what it changed
see.call(".detail")
shot.call("history")
browser.go_to("#{address}/library/storage")
see.call("tbody tr")
shot.call("storage")
browser.quit
