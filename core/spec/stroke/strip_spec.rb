# frozen_string_literal: true

RSpec.describe Fobrel::Core::Stroke::Strip do
  def image(**way) = Vips::Image.new_from_buffer(described_class.png(round_preset(size: 20), **way), "")

  # The rows of a strip that hold paint, top to bottom.
  def height(preset, **way)
    alpha = described_class.paint(preset, **way).alpha
    rows = alpha.max(axis: 1) > 0.05
    rows.count_true
  end

  it "is got ready by painting with a small tip, here and in the process that paints for another" do
    allow(described_class).to receive(:png).and_call_original
    expect(described_class.warm).to be_nil
    expect(described_class).to have_received(:png)
    expect(Fobrel::Core::Apart.warm.value).to be_nil
  end

  it "has the shape asked for" do
    expect(
      described_class::SHAPES.keys.map { |shape|
        image(shape:).then {
          [_1.width, _1.height]
        }
      }
    ).to eq(described_class::SHAPES.values)
  end

  it "lies on the ground asked for, and on none of its own" do
    expect(image.getpoint(1, 1)[3]).to eq(0)
    expect(
      Fobrel::Core::Stroke::Ground::NAMES.first(3).map { |ground|
        image(ground:).getpoint(1, 1).first
      }
    ).to eq([255, 128, 0])
    expect(image(ground: "painted").getpoint(100, 5)).to eq([15, 107, 107])
    expect { image(ground: "sky") }.to raise_error(KeyError, /there are white, grey, black, painted/)
  end

  it "takes the artist's colour, but a fixed one keeps its own" do
    red = Fobrel::Core::Stroke::Colour.parse("#ff0000")
    own = round_preset(size: 20, paint: {"colour" => {"mode" => "fixed", "value" => "#0000ff"}})
    middle = ->(preset) {
      png = described_class.png(preset, colour: red, sample: S::SampleStroke.fetch("press"))
      Vips::Image.new_from_buffer(png, "").getpoint(640, 60).first(3)
    }
    expect([middle[round_preset(size: 20)], middle[own]]).to eq([[255, 0, 0], [0, 0, 255]])
  end

  it "shows two brushes beside each other on one scale" do
    press = S::SampleStroke.fetch("press")
    small, large = [round_preset(size: 40), round_preset(size: 80)]
    alone = [small, large].map { height(_1, sample: press) }
    expect(alone[0]).to be_within(2).of(alone[1])
    beside = [small, large].map { height(_1, sample: press, beside: 80) }
    expect(beside[0]).to be_within(2).of(beside[1] / 2)
  end

  it "is painted at another size on request, its limits widened to hold it" do
    press = S::SampleStroke.fetch("press")
    held = round_preset(size: 10, tip: {"size" => {"base" => 10, "minimum" => 1, "maximum" => 12}})
    expect(height(held, sample: press, size: 20)).to be_within(2).of(40)
    expect(held["tip", "size", "maximum"]).to eq(12)
  end

  it "is painted by a hand on request, and by nobody's else" do
    press = S::SampleStroke.fetch("press")
    answers = round_preset(size: 20, response: [by_pressure("size", 0, 1)])
    light = S::Adjustments["curve" => [[0, 0], [0.9, 0.1], [1, 1]]]
    expect(
      described_class.paint(
        answers,
        sample: press,
        adjustments: light
      ).alpha.sum
    ).to be < described_class.paint(answers, sample: press).alpha.sum * 0.6
    expect(described_class.png(answers, adjustments: S::Adjustments[{}])).to eq(described_class.png(answers))
    limited = S::Adjustments["maximum_size" => 5]
    expect(height(answers, sample: press, adjustments: limited)).to be_within(2).of(10)
  end
end
