# frozen_string_literal: true

RSpec.describe Fobrel::Core::Stroke::Colour do
  # CSS Color 4: named colours and their HSL, as its examples and tables give them.
  {
    "#ff0000" => [0, 1, 0.5],
    "#00ff00" => [120, 1, 0.5],
    "#008000" => [120, 1, 0.25098],
    "#663399" => [270, 0.5, 0.4],
    "#808080" => [0, 0, 0.50196],
    "#ffffff" => [0, 0, 1],
    "#f0f8ff" => [208, 1, 0.97059]
  }.each do |text, hsl|
    it "goes to HSL and back with #{text}" do
      colour = described_class.parse(text)
      expect(colour.hsl).to match(hsl.map { be_within(0.001).of(_1) })
      expect(described_class.hsl(*colour.hsl).bytes).to eq(colour.bytes)
    end
  end

  it "shifts hue by degrees and the others by fractions, and stays a colour" do
    expect(described_class.parse("#ff0000").shift(120, 0, 0).bytes).to eq([0, 255, 0])
    expect(described_class.parse("#ff0000").shift(0, -0.5, 0).hsl[1]).to be_within(1e-9).of(0.5)
    expect(described_class.parse("#ff0000").shift(0, 0, 9).bytes).to eq([255, 255, 255])
  end

  it "refuses what is not a colour" do
    ["red", "#ff", "", nil, "#gggggg"].each { |text|
      expect {
        described_class.parse(text)
      }.to raise_error(described_class::Invalid)
    }
  end
end

# Outside references: the 34 pairs of Sharma, Wu, Dalal (2005), table 1, and culori; see ciede2000_pairs.csv.
RSpec.describe Fobrel::Core::Stroke::ColourDifference do
  pairs = File.readlines(File.join(__dir__, "ciede2000_pairs.csv"), chomp: true).grep(/\A\d/)
  pairs.map { |line| line.split(",").map(&:to_f) }.each do |l1, a1, b1, l2, a2, b2, expected, computed|
    it "sees #{expected} between #{[l1, a1, b1]} and #{[l2, a2, b2]}" do
      found = described_class.ciede2000(*[[l1, a1, b1], [l2, a2, b2]].map { |lab| lab.map { Numo::DFloat[_1] } })
      expect(found[0]).to be_within(0.00005).of(expected)
      expect(found[0]).to be_within(1e-6).of(computed)
    end
  end
end

RSpec.describe Fobrel::Core::Stroke::ColourDifference do
  # Outside reference: libvips' own conversion to CIELAB. (Its dE00 takes another middle of two
  # hues than the paper, so the pairs above are the check of the difference itself.)
  it "agrees with libvips on the way from sRGB to CIELAB" do
    chance = Random.new(5)
    colours = Array.new(60) { Array.new(3) { chance.rand(256) } }
    image = Vips::Image.new_from_memory_copy(
      Numo::UInt8[*colours].to_binary,
      colours.size,
      1,
      3,
      :uchar
    ).copy(interpretation: :srgb)
    wanted = Numo::SFloat.from_binary(image.colourspace(:lab).cast(:float).write_to_memory).reshape(colours.size, 3)
    found = described_class.lab((0..2).map { |i| Numo::DFloat[*colours.map { _1[i] / 255.0 }] })
    expect((0..2).map { |i| (found[i] - wanted[true, i]).abs.max }.max).to be < 0.1
  end
end

# Outside reference: the conversions of W3C Pointer Events Level 3 and their test values
# (recalled from memory).
RSpec.describe Fobrel::Core::Stroke::Tilt do
  pi = Math::PI
  [
    [0, 0, pi / 2, 0],
    [0, 90, 0, pi / 2],
    [0, -90, 0, 3 * pi / 2],
    [90, 0, 0, 0],
    [-90, 0, 0, pi],
    [90, 90, 0, 0],
    [-90, -90, 0, 0],
    [0, 45, pi / 4, pi / 2],
    [0, -45, pi / 4, 3 * pi / 2],
    [45, 0, pi / 4, 0],
    [-45, 0, pi / 4, pi]
  ].each do |x, y, altitude, azimuth|
    it "leans #{x}, #{y}" do
      expect(
        [
          described_class.altitude(x, y),
          described_class.azimuth(x, y)
        ]
      ).to match([be_within(1e-9).of(altitude), be_within(1e-9).of(azimuth)])
    end
  end

  [
    [0, 0, 90, 0],
    [pi / 2, 0, 0, 90],
    [pi, 0, -90, 0],
    [3 * pi / 2, 0, 0, -90],
    [pi / 4, 0, 90, 90],
    [0, pi / 4, 45, 0],
    [pi / 2, pi / 4, 0, 45],
    [0, pi / 2, 0, 0]
  ].each do |azimuth, altitude, x, y|
    it "comes back from azimuth #{azimuth.round(2)}, altitude #{altitude.round(2)}" do
      expect(described_class.from(altitude, azimuth)).to match([be_within(1e-9).of(x), be_within(1e-9).of(y)])
    end
  end

  it "goes both ways for every lean" do
    [-70, -20, 15, 60].product([-65, -5, 30, 80]).each do |x, y|
      back = described_class.from(described_class.altitude(x, y), described_class.azimuth(x, y))
      expect(back).to match([be_within(1e-9).of(x), be_within(1e-9).of(y)])
    end
  end
end

RSpec.describe Fobrel::Core::Stroke::Blending do
  chance = Random.new(3)
  colours = Array.new(60) {
    Array.new(8) {
      chance.rand(6).zero? ? [0.0, 1.0, 0.5].sample(random: chance) : chance.rand
    }
  }

  def planes(rows) = rows.first.zip(*rows.drop(1)).map { Numo::SFloat[_1] }

  def page(rows) = S::Page.new(planes(rows.map { |r, g, b, a| [a, r * a, g * a, b * a] }))

  # The library's picture of the same colours, not premultiplied.
  def image(rows)
    Vips::Image.new_from_memory_copy(
      (Numo::SFloat[*rows] * 255).to_binary,
      rows.size,
      1,
      4,
      :float
    ).copy(interpretation: :srgb)
  end

  names = {"normal" => :over, "color-dodge" => :"colour-dodge", "color-burn" => :"colour-burn"}
  %w[
    normal
    multiply
    screen
    overlay
    darken
    lighten
    color-dodge
    color-burn
    hard-light
    soft-light
    difference
    exclusion
  ].each do |mode|
    # At the very ends the published wordings of dodge and burn differ.
    ends = ->(rows) {
      mode.start_with?("color") ? rows.map { |*rgb, a|
        [
          *rgb.map { |v|
            v.clamp(
              0.02, 0.98
            )
          },
          a
        ]
      } : rows
    }

    # Outside reference: libvips' composite, for opaque colours (it departs from the W3C's
    # formula where the source is see-through).
    it "blends #{mode} as libvips does" do
      below, above = [colours.map { _1.first(4) }, colours.map { _1.last(4) }].map { |rows|
        ends[rows.map { |*rgb, _|
          [*rgb, 1.0]
        }]
      }
      both = image(below).composite2(image(above), names.fetch(mode, mode.to_sym), compositing_space: :srgb)
      theirs = Numo::SFloat.from_binary(both.cast(:float).write_to_memory).reshape(colours.size, 4) / 255
      ours = page(below).under(page(above), mode:)
      (0..2).each { |band| expect((ours.planes[band + 1][0, true] - theirs[true, band]).abs.max).to be < 2e-3 }
    end

    # W3C Compositing and Blending Level 1, section 5: αs(1−αb)Cs + αsαb·B(Cb, Cs) + (1−αs)αb·Cb.
    it "composites #{mode} by the W3C's formula" do
      below, above = [colours.map { _1.first(4) }, colours.map { _1.last(4) }].map(&ends)
      opaque = page(below.map { |*rgb, _| [*rgb, 1.0] }).under(page(above.map { |*rgb, _| [*rgb, 1.0] }), mode:)
      ours = page(below).under(page(above), mode:)
      below.zip(above).each_with_index do |((*cb, ab), (*cs, as)), i|
        expect(ours.planes[0][0, i]).to be_within(1e-5).of(as + ab * (1 - as))
        3.times do |band|
          next if ab < 0.01 || as < 0.01
          expected = as * (1 - ab) * cs[band] + as * ab * opaque.planes[band + 1][0, i] + (1 - as) * ab * cb[band]
          expect(ours.planes[band + 1][0, i]).to be_within(1e-3).of(expected)
        end
      end
    end
  end

  # W3C Compositing and Blending Level 1, section 9.2: what each non-separable mode takes from where.
  it "keeps hue, saturation and luminosity as the W3C's definitions say" do
    lum = ->(c) { 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2] }
    below = [0.2, 0.5, 0.4]
    above = [0.7, 0.3, 0.35]
    mix = ->(mode) {
      described_class.blend(
        mode,
        below.map { Numo::SFloat[[_1]] },
        above.map {
          Numo::SFloat[[_1]]
        }
      ).map { _1[0].to_f }
    }
    sat = ->(c) { c.max - c.min }
    order = ->(c) { c.each_with_index.sort.map(&:last) }
    expect([lum[mix["hue"]], lum[mix["saturation"]], lum[mix["color"]]]).to all(be_within(1e-4).of(lum[below]))
    expect(lum[mix["luminosity"]]).to be_within(1e-4).of(lum[above])
    expect(sat[mix["hue"]]).to be_within(1e-4).of(sat[below])
    expect(sat[mix["saturation"]]).to be_within(1e-4).of(sat[above])
    expect([order[mix["hue"]], order[mix["color"]]]).to eq([order[above]] * 2)
    expect([order[mix["saturation"]], order[mix["luminosity"]]]).to eq([order[below]] * 2)
  end

  it "lists the modes of the preset's schema, and names one that is not" do
    expect(described_class::MODES).to match_array(
      Fobrel::Core::Preset::Schema::DOCUMENT.dig(
        "properties",
        "paint",
        "properties",
        "blend",
        "enum"
      )
    )
    expect { described_class.blend("glow", [], []) }.to raise_error(KeyError, /glow.*multiply/)
  end

  # Porter & Duff 1984: destination-over and destination-out.
  it "lays under and erases" do
    red = page([[1.0, 0.0, 0.0, 0.5]])
    blue = page([[0.0, 0.0, 1.0, 0.8]])
    expect(red.over(blue).planes.map { _1[0].to_f.round(6) }).to eq([0.9, 0.5, 0.0, 0.4])
    expect(red.without(blue).planes.map { _1[0].to_f.round(6) }).to eq([0.1, 0.1, 0.0, 0.0])
  end
end
