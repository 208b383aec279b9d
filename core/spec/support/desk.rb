# frozen_string_literal: true

# A desk's folder of its own, three brushes, and a server that is only a table.
module DeskHelp
  Startup = Fobrel::Core::Startup

  # What the agent asks; notes what it gives.
  class Table
    attr_reader :given
    attr_accessor :plan_given, :kept, :files

    def initialize(plan, files, kept)
      @plan_given = plan
      @files = files
      @kept = kept
      @given = []
    end

    def plan(etag)
      now = "#{plan_given["plan"]}-#{plan_given["made_at"]}-#{kept.hash}"
      {etag: now, plan: plan_given, kept:} unless etag == now
    end

    def fetch(sum, from)
      @given << sum
      yield files.fetch(sum)[from..]
    end
  end

  def self.included(group)
    group.around { |example| Dir.mktmpdir { |folder| (@desk = folder) && example.run } }
    group.let(:tip) { Fobrel::Core::Tip::Cover[Numo::SFloat.ones(64, 64) * 0.8].to_png }
    group.let(:rope) {
      Preset.build(
        "Rope",
        {"tip" => {"form" => {"kind" => "picture", "frames" => [sha(tip)]}, "size" => {"base" => 20}}}
      )
    }
    group.let(:fog) { round_preset }
    group.let(:ink) { Preset.restore(round_preset.to_h.merge("id" => SecureRandom.uuid, "name" => "Ink")) }
  end

  # @param brushes [Array] preset, part, key and more of each
  def table(number, *brushes, kept: [], at: Time.at(0))
    assets = {sha(tip) => Fobrel::Core::Package::Bundle::Asset.new(bytes: tip, ext: "png")}
    entries = brushes.map { |preset, part, key, more|
      Startup::Plan::Entry.new(preset:, part:, key:, version: 1, **(more || {}))
    }
    about = {desk: {"id" => 1, "name" => "Desk"}, number:, at:, by: "Maren Oake"}
    plan = Startup::Plan.build(entries, assets:, **about)
    files = plan.contents.values.to_h { [Fobrel::Core::Sum.of(_1), _1] }
    Table.new(plan.to_h, files.merge(Fobrel::Core::Sum.of(tip) => tip), kept)
  end

  def pull(number, *brushes, kept: [], **how)
    brushes = [brushes] unless brushes.first.is_a?(Array)
    (@tables ||= {})[number] = table(number, *brushes, kept:)
    agent(number, **how).pull
  end

  def agent(number, **how) = Startup::Agent.new(@desk, @tables.fetch(number), **how)

  def drift = Startup::Drift.of(Startup::Folder.new(@desk))

  def names(folder)
    root = File.join(@desk, Startup::Folder.new(@desk).place(folder))
    Dir.glob("**/*", base: root).reject { File.directory?(File.join(root, _1)) }.sort
  end
end
