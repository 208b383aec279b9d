# frozen_string_literal: true

require "support/axe"
require "support/dialogs"
require "support/wanderer"

# The whole demo: each dialog once, then some seconds at random, with a new seed each time. `bin/wander` walks longer.
RSpec.describe "the demo studio", :demo, order: :defined do
  include Capybara::DSL
  include BrowserHelp
  include AxeHelp

  seconds = Float(ENV.fetch("WANDER_SECONDS", 15))

  before(:all) do
    Studio.clear
    Fobrel::Demo::Studio.build
  end

  after(:all) { Studio.clear }

  it "has a dialog behind each “…”, which Escape closes and in which axe finds nothing" do
    Studio::M::Person.find_by!(login: "maren").update!(owner: true)
    sign_in("maren")
    library = Studio::M::Library.find_by!(name: "Storm over Skerrow")
    dialogs = Dialogs.new(page, library)
    dialogs.each { |place| dialogs.troubles.concat(findings(place)) }
    expect(dialogs.troubles.join("\n")).to eq("")
    expect(dialogs.seen.size).to be > 30
  end

  %w[maren tove ilse].each do |login|
    it "survives #{login} doing things at random" do
      seed = Integer(ENV.fetch("WANDER_SEED", RSpec.configuration.seed))
      RSpec.configuration.reporter.message("wanderer #{login}: seed #{seed}")
      GUARD.forget
      Wanderer.new(login, seed:).go(seconds)
    rescue Wanderer::Found => e
      raise Wanderer::Found, "seed #{seed} (again: bin/wander --seed #{seed} --as #{login})\n#{e.message}", []
    end
  end
end
