# frozen_string_literal: true

# The work of bin/mutate: changes code in one small place at a time, in a copy of the project, and runs the specs
# that should notice. What no spec noticed is printed.
require "fileutils"
require "open3"
require "optparse"
require "parser/current"
require "tmpdir"

# Finds the places of a file that can be changed, and what they can be changed to.
class Places < Parser::AST::Processor
  SWAPS = {
    :+ => "-",
    :- => "+",
    :* => "/",
    :/ => "*",
    :< => "<=",
    :> => ">=",
    :<= => "<",
    :>= => ">",
    :== => "!=",
    :!= => "==",
    :min => "max",
    :max => "min",
    :any? => "none?",
    :all? => "any?",
    :select => "reject",
    :reject => "select",
    :first => "last",
    :last => "first",
    :sin => "cos",
    :cos => "sin"
  }.freeze

  attr_reader :found

  def initialize
    super
    @found = []
  end

  def on_send(node)
    swap(node.loc.selector, SWAPS[node.children[1]]) if SWAPS.key?(node.children[1]) && node.children[0]
    super
  end

  def on_int(node) = swap(node.loc.expression, (node.children[0].zero? ? 1 : 0).to_s)

  def on_float(node) = swap(node.loc.expression, (node.children[0].zero? ? 1.0 : node.children[0] * 1.5).to_s)

  def on_if(node)
    swap(node.children[0].loc.expression, "true")
    swap(node.children[0].loc.expression, "false")
    super
  end

  def on_and(node)
    swap(node.loc.operator, "||") if node.loc.operator.source == "&&"
    super
  end

  def on_or(node)
    swap(node.loc.operator, "&&") if node.loc.operator.source == "||"
    super
  end

  def on_true(node) = swap(node.loc.expression, "false")

  def on_false(node) = swap(node.loc.expression, "true")

  private

  def swap(range, text) = @found << [range, text]
end

root = File.expand_path("../..", __dir__)
options = {sample: 20, seed: Random.new_seed % 100_000, specs: nil}
OptionParser.new do |line|
  line.banner = "bin/mutate [--sample N] [--seed N] [--specs FILES] FILE…"
  line.on("--sample N", Integer, "so many changes of each file (20)")
  line.on("--seed N", Integer)
  line.on("--specs FILES", Array, "that should notice; else those beside the file")
end.parse!(into: options)
abort "bin/mutate [--sample N] [--seed N] [--specs FILES] FILE…" if ARGV.empty?

# The specs of a file: its own, else those of its folder.
specs_of = lambda do |file|
  next options[:specs] if options[:specs]
  if file.start_with?("core/lib/fobrel/core/")
    own = file.sub("core/lib/fobrel/core/", "core/spec/").sub(/\.rb\z/, "_spec.rb")
    File.exist?(File.join(root, own)) ? [own] : Dir[File.join(root, File.dirname(own), "*_spec.rb")].map {
      _1.delete_prefix("#{root}/")
    }
  else
    %w[model history at_once editing order names bench].map { "spec/server/#{_1}_spec.rb" }
  end
end

copy = File.join(root, "var/mutate")
FileUtils.mkdir_p(copy)
tracked = IO.popen(["git", "-C", root, "ls-files", "-co", "--exclude-standard"], &:readlines).map(&:chomp)
tracked.each do |path|
  next unless File.file?(File.join(root, path))
  FileUtils.mkdir_p(File.dirname(File.join(copy, path)))
  FileUtils.cp(File.join(root, path), File.join(copy, path))
end
FileUtils.mkdir_p(File.join(copy, "var"))

run = lambda do |specs|
  core = specs.all? { _1.start_with?("core/") }
  folder = core ? File.join(copy, "core") : copy
  files = specs.map { core ? _1.delete_prefix("core/") : _1 }
  env = {"BUNDLE_GEMFILE" => File.join(copy, "Gemfile"), "TEST_CLUSTER" => "test-mutate"}
  _, ended = Open3.capture2e(
    env,
    "timeout",
    "300",
    "bundle",
    "exec",
    "rspec",
    "--fail-fast",
    "--seed",
    "1",
    *files,
    chdir: folder
  )
  ended.success?
end

survived = 0
chance = Random.new(options[:seed])
puts "seed #{options[:seed]}"
$stdout.sync = true
ARGV.each do |given|
  file = File.expand_path(given).delete_prefix("#{root}/")
  source = File.read(File.join(root, file))
  specs = specs_of[file]
  abort "#{file}: its specs fail before anything is changed" unless run[specs]
  buffer = Parser::Source::Buffer.new(file, source:)
  places = Places.new
  places.process(Parser::CurrentRuby.new.parse(buffer))
  tried = places.found.sample(options[:sample], random: chance)
  left = tried.select do |range, text|
    mutated = source.dup
    mutated[range.begin_pos...range.end_pos] = text
    File.write(File.join(copy, file), mutated)
    run[specs]
  ensure
    File.write(File.join(copy, file), source)
  end
  puts "#{file}: #{tried.size} of #{places.found.size} changes tried, #{left.size} not noticed"
  left.each { |range, text| puts "  line #{range.line}: #{range.source} → #{text}    #{range.source_line.strip}" }
  survived += left.size
end
exit survived.zero?
