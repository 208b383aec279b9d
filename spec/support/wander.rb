# frozen_string_literal: true

# The walk of bin/wander.
require "optparse"
$LOAD_PATH.unshift(File.expand_path("..", __dir__))

options = {seed: Random.new_seed % 100_000, minutes: 3.0, as: %w[maren tove ilse]}
OptionParser.new do |line|
  line.banner = "bin/wander [--seed N] [--minutes M] [--as maren|tove|ilse]"
  line.on("--seed N", Integer)
  line.on("--minutes M", Float)
  line.on("--as LOGIN", %w[maren tove ilse]) { options[:as] = [_1] }
end.parse!(into: options)
options[:as] = Array(options[:as])

require "rspec/core"
require "support/wanderer"

puts "seed #{options[:seed]}"
$stdout.sync = true
Studio.clear
Fobrel::Demo::Studio.build
seconds = options[:minutes] * 60 / options[:as].size
well = options[:as].map do |login|
  GUARD.forget
  steps = Wanderer.new(login, seed: options[:seed]).go(seconds)
  puts "#{login}: #{steps} steps, nothing wrong"
  true
rescue Wanderer::Found => e
  puts "#{login}:", e.message, ""
  false
end
Studio.clear
ActiveRecord::Base.connection_handler.clear_all_connections!
TEST_POSTGRES&.stop
FileUtils.rm_rf(ENV.fetch("FOBREL_VAR"))
exit well.all?
