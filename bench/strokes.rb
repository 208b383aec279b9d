# frozen_string_literal: true

# What painting costs: the rows of the table of speed that need no database. Judged by processor time, which a busy
# machine disturbs less; brushes time stands beside it. See bench/rows.rb and bin/bench.
require "open3"
require "tmpdir"
require_relative "../demo/brushes"
require_relative "rows"

$stdout.sync = true

module Fobrel
  S = Core::Stroke
  # A page of the reference's size, with as many dabs.
  WIDE, TALL, DABS = 1000, 300, 400
  TYPICAL = [
    "Quay line",
    "Bollard",
    "Harbour fog",
    "Grain by hand",
    "Dry sail",
    "Slate chalk",
    "Mooring ring",
    "Braided line",
    "Wet thumb",
    "Autumn hedge"
  ].freeze
  TUNED = %w[-O3 -march=native -fno-math-errno -fno-trapping-math].freeze

  brushes = Demo::Brushes.all
  assets = brushes.flat_map(&:pictures).to_h { ["sha256:#{Digest::SHA256.hexdigest(_1)}", _1] }
  presets = brushes.to_h { [_1.name, Core::Preset::Preset.build(_1.name, _1.settings)] }
  dabs = lambda do |size, frames = 1|
    Array.new(DABS) { |i|
      place = [150 + i * 680.0 / DABS, 150 + 20 * Math.sin(i * 0.1)]
      S::Dabs::Dab.new(*place, size.to_f, 0.0, 1.0, 1.0, 0.3, i % frames, 0.0, 0.0, 0.0, 0.0, 0.0)
    }
  end
  folder = Dir.mktmpdir("fobrel-bench")
  programs = {plain: ["-O2"], tuned: TUNED}.to_h { |name, flags|
    path = File.join(folder, name.to_s)
    system("gcc", *flags, "-o", path, File.join(__dir__, "reference.c"), "-lm", exception: true)
    [name, ->(size, *way) { Open3.capture2(path, DABS.to_s, size.to_s, *way).first.to_f }]
  }

  puts "400 dabs on a cleared page, beside the C loop built #{TUNED.join(" ")}"
  {20 => 20.0, 80 => 8.0, 200 => 6.0}.each do |size, wanted|
    Rows.row("dabs #{size}", "×", wanted) do
      list = dabs[size]
      found = Rows.time { S::Layer.new(WIDE, TALL).lay(list, S::RoundTip.new(hardness: 0.5)) }
      found.beside = programs[:tuned][size]
      found.value = found.cpu / found.beside
      found.more = format("plain C %.2f, masks kept %.2f", programs[:plain][size], programs[:tuned][size, "cached"])
      found
    end
  end

  puts "", "Strips, warm"
  strip = ->(preset, **way) { Rows.time(3) { S::Strip.png(preset, assets:, **way) } }
  Rows.row("ten typical strips, mean", "ms", 30.0) do
    all = TYPICAL.map { strip[presets[_1]].cpu }
    Rows::Found.new(value: all.sum / all.size, more: "processor time")
  end
  Rows.row("the dearest strip of the demo", "ms", 60.0) do
    name, found = presets.map { |one, preset| [one, strip[preset]] }.max_by { _1[1].cpu }
    found.tap { |one| (one.value = one.cpu) && (one.more = name) }
  end
  Rows.row("a strip on the Bench of a 60 px brush", "ms", 60.0) do
    methods = presets.group_by { |_, preset| preset["method"] }.values.map { _1.first(3) }.flatten(1)
    name, found = methods.map { |one, preset|
      [one, strip[S::Strip.sized(preset, 60.0), shape: "bench", beside: 60]]
    }.max_by { _1[1].cpu }
    found.tap { |one| (one.value = one.cpu) && (one.more = "the dearest of #{methods.size}: #{name}") }
  end

  puts "", "Reels and own colours"
  reel = presets.values.find { _1.frames.size >= 4 && _1["tip", "form", "colours"] != "own" && _1["method"] == "dabs" }
  own = presets.values.find { _1["tip", "form", "colours"] == "own" }
  Rows.row("a reel of 4 at 5 px, a strip", "ms", 100.0) do
    size = {"base" => 5.0, "minimum" => 1, "maximum" => 100}
    mark = {"form" => {"kind" => "picture", "frames" => reel.frames.first(4), "turn" => "in order"}, "size" => size}
    found = strip[Core::Preset::Preset.build("Reel", {"tip" => mark, "stroke" => {"spacing" => 0.1}})]
    found.tap { _1.value = _1.cpu }
  end
  read = lambda do |references, colours|
    pictures = references.map { Core::Tip::Picture.read(assets.fetch(_1)) }
    tips = pictures.map { colours ? Core::Tip::Paint.from_picture(_1) : Core::Tip::Cover.from_luma(_1.luma) }
    S::PictureTip.new(names: references, own: colours) { |index| tips[index] }
  end
  large = lambda do |tip, frames|
    list = dabs[400, frames]
    colour = Core::Stroke::Painter::INK
    Rows.time(1) {
      tip.own_colours? ? S::ColourLayer.new(WIDE, TALL).lay(
        list,
        tip,
        nil,
        colour
      ) : S::Layer.new(WIDE, TALL).lay(list, tip)
    }
  end
  plain = nil
  {
    "a reel of 4 at 400 px, 400 dabs" => [reel.frames.first(4), false],
    "own colours at 400 px, 400 dabs" => [own.frames.first(1), true]
  }.each do |name, (references, colours)|
    Rows.row(name, "×", 2.5) do
      plain ||= large[read[reel.frames.first(1), false], 1].cpu
      found = large[read[references, colours], references.size]
      found.tap { |one| (one.beside = plain) && (one.value = one.cpu / plain) && (one.more = "a plain picture tip") }
    end
  end

  puts "", "Cold: the painter that a web process has ready, which has decoded nothing that is asked for"
  Rows.row("the first strip after a start", "×", 2.0) do
    script = <<~RUBY
      require "#{File.expand_path("../demo/brushes", __dir__)}"
      brush = Fobrel::Demo::Brushes.all.find { _1.name == "Slate chalk" }
      assets = brush.pictures.to_h { ["sha256:" + Digest::SHA256.hexdigest(_1), _1] }
      preset = Fobrel::Core::Preset::Preset.build(brush.name, brush.settings)
      timed = lambda { |&work|
        began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        work.call
        puts (Process.clock_gettime(Process::CLOCK_MONOTONIC) - began) * 1e3
      }
      Fobrel::Core::Apart.warm.join
      4.times { timed.call { Fobrel::Core::Apart.call(Fobrel::Core::Stroke::Strip, :png, preset, assets:) } }
      timed.call { Fobrel::Core::Tip::Cover.from_file(brush.pictures.first) }
      timed.call { Fobrel::Core::Tip::Cover.from_file(brush.pictures.first) }
    RUBY
    # The middle of five processes: one alone says little.
    tries = Array.new(5) { Open3.capture2(RbConfig.ruby, "-e", script).first.split.map(&:to_f) }
    first = tries.map(&:first).sort[2]
    warm = tries.map { _1[1, 3].min }.sort[2]
    more = format(
      "reading its picture alone %.1f ms, %.1f the first time",
      *tries.transpose.last(2).map {
        _1.sort[2]
      }.reverse
    )
    Rows::Found.new(value: first / warm, brushes: warm, cold: first, more:)
  end
  FileUtils.rm_rf(folder)
  Rows.end
end
