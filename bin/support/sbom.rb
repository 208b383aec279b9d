# frozen_string_literal: true

require "bundler"
require "digest"
require "fileutils"
require "json"

# What Fobrel is made of, as CycloneDX 1.5 describes it. Called by bin/sbom.
class Sbom
  # What a part is for: "required" runs, "excluded" only builds or tests.
  SCOPES = {true => "required", false => "excluded"}.freeze

  # @param root [String] of the project
  def initialize(root)
    @root = root
  end

  # @return [Hash] the whole document
  def to_h
    parts = (gems + packages + debian).sort_by { _1["bom-ref"] }
    {
      "bomFormat" => "CycloneDX",
      "specVersion" => "1.5",
      "serialNumber" => "urn:uuid:#{uuid(parts)}",
      "version" => 1,
      "metadata" => {"component" => {"type" => "application", "bom-ref" => "fobrel", "name" => "fobrel"}},
      "components" => parts
    }
  end

  private

  # Of the content, so that the same parts make the same document (RFC 9562, version 8).
  def uuid(parts)
    digits = Digest::SHA256.hexdigest(JSON.generate(parts))[0, 32]
    digits[12], digits[16] = "8", "8"
    [digits[0, 8], digits[8, 4], digits[12, 4], digits[16, 4], digits[20, 12]].join("-")
  end

  def part(kind, name, version, scope:, licences: [], hashes: [])
    purl = "pkg:#{kind}/#{name.sub("@", "%40")}@#{version}"
    {
      "type" => "library",
      "bom-ref" => purl,
      "name" => name,
      "version" => version,
      "purl" => purl,
      "scope" => SCOPES.fetch(scope),
      "licenses" => licences.map { |one| {"license" => {"name" => one}} },
      "hashes" => hashes
    }.reject { |_, value| value == [] }
  end

  def gems
    running = Bundler.definition.specs_for([:default]).map(&:name)
    Bundler.definition.specs.reject { |spec| %w[bundler fobrel-core].include?(spec.name) }.map do |spec|
      part("gem", spec.name, spec.version.to_s, scope: running.include?(spec.name), licences: spec.licenses.sort)
    end
  end

  def packages
    lock = JSON.parse(File.read(File.join(@root, "web/package-lock.json")))
    lock.fetch("packages").reject { |path, one| path.empty? || one["link"] }.map { |path, one|
      part(
        "npm",
        one["name"] || path[%r{.*node_modules/(.+)\z}, 1],
        one.fetch("version"),
        scope: !one["dev"],
        licences: [one["license"]].compact,
        hashes: [sum(one["integrity"])].compact
      )
    }.uniq { _1["bom-ref"] }
  end

  ALGORITHMS = {"sha512" => "SHA-512", "sha384" => "SHA-384", "sha256" => "SHA-256", "sha1" => "SHA-1"}.freeze
  private_constant :ALGORITHMS

  # As npm writes it (Subresource Integrity): the algorithm, and the sum in base64.
  def sum(integrity)
    kind, coded = integrity.to_s.split(" ").first.to_s.split("-", 2)
    ALGORITHMS.key?(kind) && {"alg" => ALGORITHMS[kind], "content" => coded.unpack1("m").unpack1("H*")} || nil
  end

  # What the start commands install, in the version that is here.
  def debian
    named = File.read(File.join(@root, "bin/support/machine.sh")).scan(/need_debian ([a-z0-9][^\n|]*)/).flatten
    named.flat_map(&:split).grep(/\A[a-z0-9][a-z0-9.+-]+\z/).uniq.filter_map do |name|
      version = IO.popen(["dpkg-query", "-W", "-f=${Version}", name], err: File::NULL, &:read)
      part("deb", "debian/#{name}", version, scope: true) unless version.empty?
    rescue SystemCallError
      nil
    end
  end
end

if $PROGRAM_NAME == __FILE__
  path = ARGV.fetch(0)
  FileUtils.mkdir_p(File.dirname(path))
  document = Sbom.new(ENV.fetch("FOBREL_ROOT")).to_h
  File.write(path, "#{JSON.pretty_generate(document)}\n")
  puts "#{path}: #{document["components"].size} parts"
end
