# frozen_string_literal: true

require_relative "../../spec/support/coverage" if ENV["COVERAGE"]
require "fobrel/core"
require "open3"
require "rbconfig"
require "tmpdir"

S = Fobrel::Core::Stroke
Preset = Fobrel::Core::Preset::Preset

# Small things the core's specs share.
module CoreHelp
  # A preset with a round tip; the groups given are merged in.
  def round_preset(size: 40, hardness: 1, response: [], tip: {}, **groups)
    Preset.build(
      "Round",
      {
        "tip" => {"form" => {"kind" => "round", "hardness" => hardness}, "size" => {"base" => size}}.merge(tip),
        "response" => response
      }.merge(groups.transform_keys(&:to_s))
    )
  end

  def by_pressure(drives, from, to, curve = [[0, 0], [1, 1]])
    {"drives" => drives, "by" => "pressure", "from" => from, "to" => to, "curve" => curve}
  end

  # Samples along a line, evenly pressed unless a block gives the pressure at 0–1 of the way.
  def line(x1, y1, x2, y2, count: 9)
    S::Samples.from_list(
      (0...count).map do |i|
        u = i.fdiv(count - 1)
        {"x" => x1 + (x2 - x1) * u, "y" => y1 + (y2 - y1) * u, "pressure" => block_given? ? yield(u) : 0.7}
      end
    )
  end

  # A grey picture as a PNG, made with libvips alone: rows of tones 0–255.
  def grey_png(rows)
    image = Vips::Image.new_from_array(rows).cast(:uchar).copy(interpretation: :b_w)
    image.pngsave_buffer
  end

  def sha(bytes) = "sha256:#{Digest::SHA256.hexdigest(bytes)}"
end

RSpec.configure do |config|
  config.include CoreHelp
  config.disable_monkey_patching!
  config.order = :random
  Kernel.srand config.seed
end
