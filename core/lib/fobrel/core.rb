# frozen_string_literal: true

require "cgi"
require "csv"
require "digest"
require "openssl"
require "etc"
require "fileutils"
require "io/wait"
require "json"
require "json/canonicalization"
require "json_schemer"
require "liquid"
require "nokogiri"
require "numo/narray"
require "securerandom"
require "socket"
require "stringio"
require "time"
require "timeout"
require "tmpdir"
# Damaged pictures are answered with a sentence of ours; the library need not print its own.
ENV["VIPS_WARNING"] ||= "0"
require "vips"
require "zeitwerk"
require "zip"

# The rules of brush presets, with no web and no database: what a picture becomes as a tip,
# what a preset paints, how presets travel in packages and lie in start folders.
module Fobrel
  module Core
    # Where the shipped data lies: the preset's schema, the sample strokes.
    DATA = File.expand_path("../../data", __dir__)

    # A value object's file is named for what a reader sees on the screen; Zeitwerk finds it.
    LOADER = Zeitwerk::Loader.new.tap do |loader|
      loader.push_dir(File.join(__dir__, "core"), namespace: self)
      loader.setup
    end

    # File names in archives are UTF-8, and say so.
    Zip.unicode_names = true
    Zip.warn_invalid_date = false
    # One thread a picture: our pictures are small, and several are computed side by side.
    Vips.concurrency_set(1)
  end
end
