# frozen_string_literal: true

# Which lines the specs ran, kept for each part of bin/test in var/coverage; bin/test puts them together at the
# end. COVERAGE names the part.
if ENV["COVERAGE"]
  require "simplecov"
  SimpleCov.start do
    root File.expand_path("../..", __dir__)
    coverage_dir "var/coverage/#{ENV["COVERAGE"]}"
    command_name ENV["COVERAGE"]
    formatter Class.new { define_method(:format) { |_| nil } } # put together at the end, see covered.rb
    add_filter { |file| !file.filename.match?(%r{\A#{SimpleCov.root}/(core/lib|server|cli|gallery)/}) }
  end
end
