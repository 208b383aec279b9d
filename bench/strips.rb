# frozen_string_literal: true

# Whether pictures stayed what they were: the strips of the demo's brushes and of 500 generated ones over all methods,
# held against those that other code painted.
#
#   git worktree add /tmp/before REVISION
#   BUNDLE_GEMFILE=/tmp/before/Gemfile bundle exec ruby bench/strips.rb keep /tmp/strips
#   bundle exec ruby bench/strips.rb compare /tmp/strips
require_relative "../demo/brushes"
require "fileutils"

module Fobrel
  # The same strips every time, painted by the core that was loaded.
  module Strips
    MADE = 500
    SEED = 20_261_127
    SHAPES = Core::Stroke::Strip::SHAPES.keys

    # @yieldparam name [String]
    # @yieldparam preset [Core::Preset::Preset]
    # @yieldparam assets [Hash]
    # @yieldparam shape [String]
    def self.each
      brushes = Demo::Brushes.all
      assets = brushes.flat_map(&:pictures).to_h { ["sha256:#{Digest::SHA256.hexdigest(_1)}", _1] }
      presets = brushes.map { Core::Preset::Preset.build(_1.name, _1.settings) }
      presets.each { |preset| yield preset.name, preset, assets, "list" }
      chance = Random.new(SEED)
      MADE.times { |number| yield "made #{number}", made(presets, chance), assets, SHAPES.sample(random: chance) }
    end

    # A brush between several: groups of settings of some, numbers of its own.
    def self.made(presets, chance)
      from = presets.sample(random: chance)
      changes = %w[stroke paint grain response].filter_map { |group|
        other = presets.sample(random: chance)
        [group, other[group]] if chance.rand < 0.5 && other[group]
      }.to_h
      size = from["tip", "size"]
      base = [4, 9, 17, 30, 60, 110, 240].sample(random: chance) * (0.8 + chance.rand * 0.4)
      mark = from["tip"].merge(
        "size" => size.merge(
          "base" => base,
          "minimum" => [size["minimum"], base].min,
          "maximum" => [size["maximum"], base].max
        ),
        "roundness" => (chance.rand < 0.3) ? 0.2 + chance.rand * 0.8 : from["tip", "roundness"],
        "angle" => (chance.rand * 360).round(1)
      )
      Core::Preset::Preset.restore(from.to_h.merge(changes).merge("tip" => mark))
    end

    # @return [Numo::UInt8, nil] nil where it cannot be painted
    def self.pixels(preset, assets, shape)
      png = Core::Stroke::Strip.png(preset, assets:, shape:)
      image = Vips::Image.new_from_buffer(png, "")
      Numo::UInt8.from_binary(image.write_to_memory).reshape(image.height, image.width, image.bands)
    rescue Core::Problem => e
      Numo::UInt8.from_binary(e.class.name)
    end

    def self.keep(folder)
      FileUtils.mkdir_p(folder)
      each { |name, *rest| File.binwrite(File.join(folder, name), Marshal.dump(pixels(*rest))) }
    end

    # Samples are told apart where they show: colours count as much as their alpha lets them.
    def self.differences(one, other)
      return Numo::Int32[255] unless one.shape == other.shape
      one, other = [one, other].map { |all| shown(all) }
      (one - other).abs
    end

    def self.shown(all)
      all = Numo::Int32.cast(all)
      return all unless all.ndim == 3 && [2, 4].include?(all.shape[2])
      alpha = all[true, true, -1]
      colours = (0...(all.shape[2] - 1)).map { |band| all[true, true, band] * alpha / 255 }
      Numo::Int32[*colours.map { _1.flatten.to_a }, alpha.flatten.to_a]
    end

    def self.compare(folder)
      same = 0
      samples = [0, 0, 0]
      worst = []
      each do |name, *rest|
        was = Marshal.load(File.binread(File.join(folder, name))) # rubocop:disable Security/MarshalLoad
        now = pixels(*rest)
        next same += 1 if was.shape == now.shape && was == now
        apart = differences(was, now)
        samples = samples.zip([apart.size, (apart > 0).count_true, (apart > 1).count_true]).map(&:sum)
        worst << [apart.max, (apart > 1).count_true.fdiv(apart.size), name]
      end
      puts "#{same} strips are the same to the last bit, #{worst.size} are not"
      return if worst.empty?
      puts format(
        "there %.4f %% of the samples differ at all, %.5f %% by more than 1 of 255",
        *samples.drop(1).map { 100.0 * _1 / samples.first }
      )
      worst.max_by(12) { |most, share, _| [share, most] }.each do |most, share, name|
        puts format("%-32s by %d of 255 at the most; more than 1: %.4f %%", name, most, share * 100)
      end
      exit 1 if worst.any? { |_, share, _| share > 0.001 }
    end
  end

  way, folder = ARGV
  abort "bench/strips.rb keep|compare FOLDER" unless %w[keep compare].include?(way) && folder
  Strips.public_send(way, folder)
end
