# frozen_string_literal: true

# The tip maker: a page of 2000 × 2000 and a scan of 6000 × 6000, read, looked at while a slider moves, and made in
# full; beside what libvips alone takes to unpack the same file and stretch the same piece of it. Memory in a process
# of its own. See bin/bench.
require "fobrel/core"

$stdout.sync = true

module Fobrel
  Tip = Core::Tip

  # A page of thirty drawings on paper that is lit from the middle, with a scanner's grain.
  def self.page(side)
    chance = Random.new(4)
    ink = Vips::Image.black(side, side)
    30.times do |i|
      x, y = [i % 6, i / 6].zip([6, 5]).map { |place, count| ((place + 0.5) * side / count).round }
      3.times { |k|
        ink = ink.draw_circle(255, x + (k - 1) * side / 50, y + chance.rand(side / 40), side / 110, fill: true)
      }
    end
    place = Vips::Image.xyz(side, side)
    light = ((place[0] / side - 0.5)**2 + (place[1] / side - 0.5)**2) * -0.5 + 0.95
    noise = Vips::Image.gaussnoise(side, side, sigma: 3, mean: 0)
    ((ink * (-0.85 / 255) + 1) * light * 240 + noise).cast(:uchar).copy(interpretation: :b_w).jpegsave_buffer(Q: 92)
  end

  def self.took
    began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    yield
    (Process.clock_gettime(Process::CLOCK_MONOTONIC) - began) * 1000
  end

  # What a block gives in a process of its own, as a text: one in which libvips has begun cannot be split any more.
  def self.apart
    reader, writer = IO.pipe.each(&:binmode)
    child = fork do
      reader.close
      writer.write(yield)
      writer.close
      exit!
    end
    writer.close
    reader.read.tap { Process.wait(child) }
  end

  # @return [Integer] MB at the most above what the process had before
  def self.peak
    apart {
      File.write("/proc/self/clear_refs", "5")
      idle = File.read("/proc/self/status")[/VmRSS:\s+(\d+)/, 1].to_i
      yield
      File.read("/proc/self/status")[/VmHWM:\s+(\d+)/, 1].to_i - idle
    }.to_i / 1024
  end

  puts "the tip maker, ms                                 first     median        p95   ratio"
  told = lambda do |what, times, reference = nil|
    sorted = times.drop(1).sort
    ratio = reference ? format("%.1f ×", sorted[sorted.size / 2] / reference) : ""
    middle, high = [0.5, 0.95].map { |share| sorted[(sorted.size * share).floor] }
    puts format("%-44s %10.0f %10.0f %10.0f %7s", what, times.first, middle, high, ratio)
  end
  files = [2000, 6000].to_h { |side| [side, apart { page(side) }] }
  memory = files.transform_values { |file| peak { Tip::Page.read(file) } }
  files.each do |side, file|
    plain = Array.new(4) { took { Vips::Image.new_from_buffer(file, "", access: :sequential).write_to_memory } }
    told.call("#{side} × #{side}: unpacked by libvips alone", plain)
    unpack = plain.drop(1).min
    page = nil
    told.call("  read, its drawings found", Array.new(4) { took { page = Tip::Page.read(file) } }, unpack)
    copy = [JSON.parse(JSON.generate(page.facts)), page.screen, page.labels]
    area = Tip::Area.of(page.marks.found.first).words
    box = Tip::Picture.pixels_of(area["box"], *Tip::Picture.size(page.screen))
    stretch = Array.new(41) { |tone|
      took {
        Vips::Image.new_from_buffer(page.screen, "").crop(*box).colourspace(:b_w)[0].linear(-1, 255 - tone).cast(:uchar)
          .pngsave_buffer
      }
    }
    told.call("  a mark stretched by libvips alone", stretch)
    reference = stretch.drop(1).sort[20]
    move = ->(frames, form) {
      Array.new(41) { |tone|
        state = {"frames" => frames, "tone" => {"even" => true, "black" => tone}, "form" => form}
        took { Tip::ApartWork.look_here(state, [copy], 0) }
      }
    }
    told.call("  a move of a slider, one mark", move.call([{"page" => 0, "area" => area}], {}), reference)
    told.call(
      "  the whole page, feathered, without specks",
      move.call([], {"feather" => 0.2, "specks" => 12}),
      reference
    )
    work = Tip::Work.new({"frames" => [{"page" => 0, "area" => area}]}, [page])
    told.call("  the mark made in full", Array.new(4) { took { work.make(0, file) } }, unpack)
    puts format("  at the most above idle: reading %d MB", memory[side])
  end
end
