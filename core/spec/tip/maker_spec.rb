# frozen_string_literal: true

RSpec.describe Fobrel::Core::Tip::Maker do
  # A mark on a scanned sheet: paper at the tone given, with grain, a dark disc off centre.
  def scan(paper:, grain:, seed: 3, ink: 0)
    chance = Random.new(seed)
    grey_png(
      Array.new(120) do |y|
        Array.new(160) do |x|
          gauss = Math.sqrt(-2 * Math.log(1 - chance.rand)) * Math.cos(2 * Math::PI * chance.rand)
          tone = (Math.hypot(x - 95, y - 50) < 25) ? ink : paper + gauss * grain
          tone.round.clamp(0, 255)
        end
      end
    )
  end

  [[236, 3], [246, 4], [250, 6], [228, 2]].each do |paper, grain|
    # Common practice, no source: white around the mark needs no cutting out.
    it "leaves no grey box around a mark on paper of tone #{paper} ± #{grain}" do
      made = described_class.make(scan(paper:, grain:))
      corners = made.cover.values[0..4, 0..4]
      expect(made.cover.width).to be_between(50, 54)
      expect(corners.max).to be <= 2.0 / 255
      expect(made.cover).to be_solid
    end
  end

  it "takes white as it is where the picture is clean" do
    rows = Array.new(40) { |y| Array.new(40) { |x| x.between?(10, 20) ? y * 6 : 255 } }
    expect(described_class.make(grey_png(rows)).white).to eq(255)
  end

  it "finds no paper in an even range of tones" do
    rows = Array.new(64) { |y| Array.new(64) { |x| (x * 4 + y) % 256 } }
    expect(described_class.make(grey_png(rows)).white).to eq(255)
  end

  it "takes the white point it is given" do
    rows = [[0, 100, 200, 255]] * 4
    made = described_class.make(grey_png(rows), white: 200, crop: false)
    expect(made.cover.values[0, true].to_a.map { _1.round(2) }).to eq([1.0, 0.5, 0.0, 0.0])
  end

  it "inverts: the light parts paint" do
    rows = Array.new(30) { |y| Array.new(30) { |x| (x.between?(10, 19) && y.between?(5, 24)) ? 255 : 0 } }
    made = described_class.make(grey_png(rows), invert: true)
    expect([made.cover.width, made.cover.values.sum]).to eq([20, 200])
  end

  it "keeps the page as it is when told not to crop" do
    expect(
      described_class.make(scan(paper: 255, grain: 0), crop: false).figures.values_at(
        :width,
        :height
      )
    ).to eq([160, 120])
  end

  it "refuses a white page and an empty file in words" do
    white = grey_png([[255] * 20] * 20)
    expect {
      described_class.make(
        white,
        name: "page.png"
      )
    }.to raise_error(Fobrel::Core::Tip::Cover::Empty, /page\.png has nothing dark enough/)
    expect { described_class.make("") }.to raise_error(Fobrel::Core::Tip::Picture::Unreadable)
  end

  it "says when a tip cannot paint solid" do
    figures = described_class.make(scan(paper: 255, grain: 0, ink: 90)).figures
    expect(figures.values_at(:solid, :greatest_cover)).to eq([false, (165 / 255.0).round(6)])
  end

  it "gives hard pixels when asked" do
    soft = Array.new(40) { |y| Array.new(40) { |x| [(Math.hypot(x - 20, y - 20) * 14).round, 255].min } }
    values = described_class.make(grey_png(soft), crisp: true).cover.values
    expect(values.eq(0).count_true + values.eq(1).count_true).to eq(values.size)
  end
end
