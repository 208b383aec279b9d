# frozen_string_literal: true

# Run within a name space of its own, where a file system of 400 kB lies at ARGV[0]: hands a small plan out, then thrice
# one that there is no room for, and says what is there after each.
require "fobrel/core"
require "tmpdir"

module RSpec # what the helper asks of a spec group
  def self.describe(*) = nil
end
require_relative "desk"

# As a spec uses it, without one.
class FullDisk
  include Fobrel::Core

  Source = Struct.new(:plan_given, :files) do
    def plan(etag)
      ({etag: plan_given["plan"].to_s, plan: plan_given, kept: []} unless etag == plan_given["plan"].to_s)
    end

    def fetch(sum, from) = yield(files.fetch(sum)[from..])
  end

  def initialize(folder)
    @folder = folder
  end

  def run
    noise = Vips::Image.gaussnoise(
      900,
      900,
      mean: 128,
      sigma: 60
    ).cast(:uchar).copy(interpretation: :b_w).pngsave_buffer
    small, large = source(1, nil), source(2, noise)
    agent(small).pull
    said = [told(nil)]
    3.times { said << told(refused { agent(large).pull }) }
    said << told(refused { agent(small).pull })
    puts JSON.generate(said)
  end

  private

  def agent(source) = Startup::Agent.new(@folder, source)

  def refused
    yield
    nil
  rescue Problem => e
    e.message
  end

  def source(number, picture)
    mark = {"form" => {"kind" => "round"}, "size" => {"base" => 10 + number}}
    mark = mark.merge("form" => {"kind" => "picture", "frames" => [Sum.reference_to(picture)]}) if picture
    preset = Preset::Preset.build("Fog", {"tip" => mark})
    assets = picture ? {Sum.reference_to(picture) => Package::Bundle::Asset.new(bytes: picture, ext: "png")} : {}
    entry = Startup::Plan::Entry.new(preset:, part: "startup")
    plan = Startup::Plan.build(
      [entry],
      assets:,
      desk: {"id" => 1, "name" => "Desk"},
      number:,
      at: Time.at(0),
      by: "Maren Oake"
    )
    files = plan.contents.values.to_h { [Sum.of(_1), _1] }
    files[Sum.of(picture)] = picture if picture
    Source.new(plan.to_h, files)
  end

  def told(problem)
    folder = Startup::Folder.new(@folder)
    used = Dir.glob("**/*", File::FNM_DOTMATCH, base: @folder).sum {
      File.lstat(File.join(@folder, _1)).then { |s|
        s.file? ? s.size : 0
      }
    }
    {
      problem:,
      plan: folder.plan&.fetch("plan"),
      drift: Startup::Drift.of(folder)&.open&.size,
      states: folder.states.size,
      making: Dir.glob("#{@folder}/.fobrel/{states/*.making,incoming/*}").size,
      used:
    }
  end
end

FullDisk.new(ARGV.fetch(0)).run
