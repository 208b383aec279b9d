# frozen_string_literal: true

RSpec.describe Fobrel::Core::Tip::Marks do
  reference = JSON.parse(File.read(File.join(__dir__, "reference.json")))

  # As reference.py makes it.
  def picture(seed, height, width)
    state = seed
    chance = -> { ((state = (state * 1_103_515_245 + 12_345) % 2**31) >> 8) / 2.0**23 }
    values = Numo::DFloat.zeros(height, width)
    rows = Numo::DFloat.new(height, 1).seq
    columns = Numo::DFloat.new(1, width).seq
    14.times do
      y = chance.call * height
      x = chance.call * width
      r = 1 + chance.call * 5
      values[((rows - y)**2 + (columns - x)**2) < r * r] = 0.2 + 0.8 * chance.call
    end
    30.times do
      # The reference works out what it puts before where it puts it.
      tone = chance.call
      y = (chance.call * height).floor
      values[y, (chance.call * width).floor] = tone
    end
    values
  end

  # skimage.measure.label(connectivity=2) and regionprops of scikit-image 0.19.3, by reference.py.
  reference["labels"].each do |kept|
    it "labels regions over sides and corners as scikit-image does (#{kept["height"]} × #{kept["width"]})" do
      values = picture(*kept.values_at("seed", "height", "width"))
      expect(values.sum).to be_within(1e-5).of(kept["sum"])
      labels = described_class.labelled(values > 0.05)
      regions = (1..labels.max).map { |id|
        at = labels.eq(id).where
        y = at / kept["width"]
        x = at % kept["width"]
        [y.min, x.min, y.max + 1, x.max + 1, at.size]
      }
      expect(regions.sort).to eq(kept["regions"])
    end
  end

  # A sheet of drawings, each of one to four blots nearer to each other than the drawings are.
  def sheet(count, chance)
    columns = Math.sqrt(count * 1.5).ceil
    rows = count.fdiv(columns).ceil
    image = Vips::Image.black(1200, 800)
    wide = 1200.0 / columns
    tall = 800.0 / rows
    gap = 0.02 * 1200
    truth = Array.new(count) do |index|
      # Each drawing keeps a little more than half a gap from the rim of its cell.
      room = [wide - gap - 4, tall - gap - 4]
      left = index % columns * wide + (wide - room[0]) / 2
      top = index / columns * tall + (tall - room[1]) / 2
      radius = [room.min / 8, 3].max
      x, y = left + room[0] / 2, top + room[1] / 2
      dots = Array.new(chance.rand(1..4)) do
        dot = [x.round, y.round, (radius * (0.6 + chance.rand * 0.4)).round]
        x = (x + (chance.rand - 0.5) * 2 * radius).clamp(left + radius + 1, left + room[0] - radius - 1)
        y = (y + (chance.rand - 0.5) * 2 * radius).clamp(top + radius + 1, top + room[1] - radius - 1)
        dot
      end
      dots.each { |cx, cy, r| image = image.draw_circle(255, cx, cy, r, fill: true) }
      [dots.map { _1 - _3 }.min, dots.map { _2 - _3 }.min, dots.map { _1 + _3 + 1 }.max, dots.map { _2 + _3 + 1 }.max]
    end
    plane = Numo::SFloat.cast(Numo::UInt8.from_binary(image.write_to_memory).reshape(800, 1200)) / 255
    [Fobrel::Core::Tip::Cover[plane], truth]
  end

  it "finds 99 of 100 drawings on made-up sheets of 1 to 60 exactly, in reading order" do
    chance = Random.new(11)
    found = total = 0
    [1, 2, 5, 9, 16, 24, 30, 42, 51, 60].each do |count|
      cover, truth = sheet(count, chance)
      marks = described_class.find(cover).found.map { |mark|
        left, top, width, height = mark.box
        [left * 1200, top * 800, (left + width) * 1200, (top + height) * 800].map(&:round)
      }
      found += truth.zip(marks).count { |one, other| one == other }
      total += count
    end
    expect(found).to be >= (total * 0.99).ceil
  end

  it "joins what lies nearer than asked, joins what is told, takes apart what is told" do
    plane = Numo::SFloat.zeros(100, 200)
    plane[10..20, 10..20] = 1
    plane[10..20, 27..37] = 1 # 7 px from centre to centre of the nearest
    plane[10..20, 80..90] = 1
    marks = described_class.find(Fobrel::Core::Tip::Cover[plane])
    sizes = ->(**how) { marks.found(**how).map { _1.parts } }
    expect(marks.gaps.first).to match([1, 2, be_within(1e-6).of(7.0 / 200)])
    expect(sizes[near: 0.03]).to eq([[1], [2], [3]])
    expect(sizes[near: 0.04]).to eq([[1, 2], [3]])
    expect(sizes[near: 0.04, apart: [2]]).to eq([[1], [2], [3]])
    expect(sizes[near: 0.0, joined: [[1, 3]]]).to eq([[1, 3], [2]])
  end

  it "tells the distance of two long outlines as trying every pixel would" do
    chance = Random.new(5)
    one = Numo::SFloat.cast(Array.new(3000) { [chance.rand(300), chance.rand(300)] })
    other = Numo::SFloat.cast(Array.new(3000) { [chance.rand(300) + 330, chance.rand(300)] })
    least = one.to_a.map { |x, y| ((other[true, 0] - x)**2 + (other[true, 1] - y)**2).min }.min
    expect(described_class.distance(one, other)).to be_within(1e-3).of(Math.sqrt(least))
  end

  it "looks at a texture more coarsely, and an empty page has none" do
    noise = Numo::SFloat.cast(Array.new(120) { Array.new(160) { (_1 * 7919 % 13 < 3) ? 1.0 : 0.0 } })
    expect(described_class.find(Fobrel::Core::Tip::Cover[noise]).parts.size).to be <= described_class::MOST
    empty = described_class.find(Fobrel::Core::Tip::Cover[Numo::SFloat.zeros(30, 30)])
    expect([empty.parts, empty.found, empty.gaps]).to eq([[], [], []])
  end
end
