# frozen_string_literal: true

source "https://rubygems.org"

gem "fobrel-core", path: "core"

gem "activerecord", "~> 7.2" # 8 wants Ruby 3.2
gem "bcrypt", "~> 3.1"
gem "json", "~> 2.9" # que 2.4 does not know json 3
gem "mail", "~> 2.8", require: false
gem "openapi_parser", "~> 2.2"
gem "pg", "~> 1.5"
gem "prawn", "~> 2.5"
gem "prometheus-client", "~> 5.0", require: false
gem "puma", ">= 6"
gem "que", "~> 2.4"
gem "rack-attack", "~> 6.7"
gem "rack-protection", "~> 4.1"
gem "rack-session", "~> 2.0"
gem "rackup", "~> 2.1"
gem "sinatra", "~> 4.1"
gem "sinatra-contrib", "~> 4.1", require: false
gem "zxcvbn-ruby", "~> 1.2", require: false # the commonest passwords; 2 wants Ruby 3.3

group :test do
  gem "bagit", "~> 0.6", require: false
  gem "capybara", "~> 3.40", require: false
  gem "committee", "~> 5.5", require: false
  gem "chunky_png", "~> 1.4", require: false
  gem "cuprite", "~> 0.15", require: false
  gem "rack-test", "~> 2.1", require: false
  gem "rspec", "~> 3.13"
  gem "simplecov", require: false
  gem "standard", require: false
end
