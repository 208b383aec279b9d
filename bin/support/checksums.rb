# frozen_string_literal: true

require "digest"

# Whether every gem that was installed is the one that was chosen: `Gemfile.checksums` has the SHA-256 of each package,
# and Bundler of Debian 12 (2.3) does not look at sums itself. `--write` notes those that are installed, after a change
# of the lock file.
class Checksums
  # @param root [String] of the project
  def initialize(root)
    @file = File.join(root, "Gemfile.checksums")
    @cache = Dir[File.join(root, "var/bundle/ruby/*/cache")].max
    @lock = File.join(root, "Gemfile.lock")
  end

  # @return [Integer] the exit code
  def check
    wrong = names.filter_map { |name|
      noted = known[name] or next "#{name}: no sum is noted"
      found = sum(name) or next "#{name}: its package is not here"
      "#{name}: another package than the one that was chosen" if found != noted
    }
    wrong.concat((known.keys - names).map { |name| "#{name}: noted, but not in Gemfile.lock" })
    puts wrong.empty? ? "All #{names.size} gems are the ones that were chosen." : wrong
    wrong.empty? ? 0 : 1
  end

  # @return [Integer] the exit code
  def write
    File.write(@file, names.map { |name| "#{sum(name)}  #{name}\n" }.join)
    0
  end

  private

  # As the lock file names them, with what each platform is called where it has one.
  def names
    @names ||= File.foreach(@lock).filter_map { |line| line.match(/^ {4}(\S+) \((\S+)\)$/)&.captures&.join("-") }
      .reject { |name| name.start_with?("fobrel-") }.uniq.sort
  end

  def known = @known ||= File.foreach(@file, chomp: true).to_h { |line| line.split("  ", 2).reverse }

  def sum(name)
    path = File.join(@cache, "#{name}.gem")
    Digest::SHA256.file(path).hexdigest if File.exist?(path)
  end
end

checksums = Checksums.new(File.expand_path("../..", __dir__))
exit(ARGV.include?("--write") ? checksums.write : checksums.check)
