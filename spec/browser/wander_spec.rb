# frozen_string_literal: true

require "support/wanderer"

# A few minutes of chance in each run of all tests, with a seed of its own each time; a longer walk by
# hand with bin/wander.
RSpec.describe "a wanderer", :demo do
  seconds = Float(ENV.fetch("WANDER_SECONDS", 15))

  before(:all) do
    Studio.clear
    Fobrel::Demo::Studio.build
  end

  after(:all) { Studio.clear }

  %w[maren tove ilse].each do |login|
    it "finds nothing wrong as #{login}" do
      seed = Integer(ENV.fetch("WANDER_SEED", RSpec.configuration.seed))
      RSpec.configuration.reporter.message("wanderer #{login}: seed #{seed}")
      GUARD.forget
      Wanderer.new(login, seed:).go(seconds)
    rescue Wanderer::Found => e
      raise Wanderer::Found, "seed #{seed} (again: bin/wander --seed #{seed} --as #{login})\n#{e.message}", []
    end
  end
end
