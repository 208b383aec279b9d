# frozen_string_literal: true

Gem::Specification.new do |spec|
  spec.name = "fobrel-core"
  spec.version = "0.1.0"
  spec.summary = "The rules of brush presets: tips, strokes, versions, packages, start folders."
  spec.authors = ["The Fobrel founders"]
  spec.licenses = ["LicenseRef-LICENSE"]
  spec.required_ruby_version = ">= 3.1"
  spec.files = Dir["lib/**/*.rb", "data/**/*.json", base: __dir__]
  spec.require_paths = ["lib"]

  spec.add_dependency "json-canonicalization", "~> 1.0"
  spec.add_dependency "json_schemer", "~> 2.4"
  spec.add_dependency "liquid", "~> 5.5"
  spec.add_dependency "nokogiri", "~> 1.16"
  spec.add_dependency "numo-narray-alt", "~> 0.9.14" # the kept-up fork of numo-narray, which stands still
  spec.add_dependency "ruby-vips", "~> 2.2"
  spec.add_dependency "rubyzip", "~> 2.4"
  spec.add_dependency "zeitwerk", "~> 2.6"
end
