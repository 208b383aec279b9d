# frozen_string_literal: true

require_relative "support/coverage"

RSpec.configure do |config|
  config.disable_monkey_patching!
  config.order = :random
  Kernel.srand config.seed
end

RSpec.configure { |config| config.backtrace_exclusion_patterns << %r{/gems/} << %r{spec/support} }
