# frozen_string_literal: true

require "bundler"
require_relative "../bin/support/sbom"

RSpec.describe Sbom do
  root = File.expand_path("..", __dir__)

  # Outside reference: what CycloneDX 1.5 requires of a document and of a component (recalled from memory), and the lock
  # files themselves.
  it "lists every gem and package of the lock files once, with version, and is the same twice" do
    document = described_class.new(root).to_h
    expect(document).to include("bomFormat" => "CycloneDX", "specVersion" => "1.5", "version" => 1)
    expect(document["serialNumber"]).to match(/\Aurn:uuid:\h{8}-\h{4}-8\h{3}-8\h{3}-\h{12}\z/)
    parts = document["components"]
    expect(parts).to all(include("type" => "library", "name" => a_kind_of(String), "version" => a_kind_of(String)))
    expect(parts.map { _1["bom-ref"] }.uniq.size).to eq(parts.size)
    locked = Bundler::LockfileParser.new(File.read(File.join(root, "Gemfile.lock"))).specs.map(&:name).uniq
    expect(locked - ["fobrel-core"] - parts.map { _1["name"] }).to eq([])
    npm = JSON.parse(File.read(File.join(root, "web/package-lock.json")))["packages"]
    wanted = npm.reject { |path, one| path.empty? || one["link"] }.map { |path, one|
      "#{one["name"] || path[%r{.*node_modules/(.+)\z}, 1]}@#{one["version"]}"
    }
    here = parts.grep(->(part) { part["purl"].start_with?("pkg:npm") }).map { "#{_1["name"]}@#{_1["version"]}" }
    expect(wanted.uniq - here).to eq([])
    runs = parts.to_h { [_1["name"], _1["scope"]] }
    expect(runs.values_at("puma", "vue", "rspec", "vite")).to eq(%w[required required excluded excluded])
    expect(described_class.new(root).to_h).to eq(document)
  end
end
