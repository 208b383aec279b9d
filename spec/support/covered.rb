# frozen_string_literal: true

require "simplecov"

# Prints how much of each folder the specs ran, of all parts that bin/test ran.
root = File.expand_path("../..", __dir__)
folders = {"core" => "core/lib", "server" => "server", "command line" => "cli", "stand-in gallery" => "gallery"}
printer = Class.new do
  define_method(:format) do |result|
    shares = folders.filter_map do |name, folder|
      files = result.files.select { _1.filename.start_with?("#{root}/#{folder}/") }
      lines = files.sum { _1.covered_lines.size + _1.missed_lines.size }
      "#{name} #{(100.0 * files.sum { _1.covered_lines.size } / lines).round(1)} %" if lines.positive?
    end
    puts "— lines run by the specs: #{shares.join(", ")}"
  end
end
parts = Dir[File.join(root, "var/coverage/*/.resultset.json")]
if parts.any?
  SimpleCov.collate(parts) do
    root File.expand_path("../..", __dir__)
    coverage_dir "var/coverage"
    formatter printer
    minimum_coverage 0
  end
end
