# frozen_string_literal: true

require "spec_helper"

RSpec.describe Fobrel::Core::Stroke::Pad do
  def movement(y, adjustments: nil)
    described_class::Movement.new(samples: line(20, y, 180, y), colour: S::Colour.parse("#1d2026"), adjustments:)
  end

  def pad(preset, **rest) = described_class.new(preset, page: [200, 80], **rest)

  # 1 − (1 − a)^n: what n equal layers cover, laid one over the other (Porter & Duff 1984).
  it "adds up the faintest paint: forty strokes at a flow of 0.002" do
    faint = round_preset(size: 40, stroke: {"spacing" => 0.05}, paint: {"flow" => 0.002})
    one = pad(faint).paint([movement(40)]).planes.first[40, 100]
    forty = pad(faint).paint(Array.new(40) { movement(40) }).planes.first[40, 100]
    expect(one).to be_between(0.005, 0.1)
    expect(forty).to be_within(1 / 255.0).of(1 - (1 - one)**40)
  end

  it "lays the same whether strokes come one by one, at once, or after one was taken back" do
    preset = round_preset(size: 14, paint: {"opacity" => 0.3})
    strokes = (1..20).map { movement(3 * _1) }
    strokes.each_index { |last| pad(preset).paint(strokes.first(last + 1)) }
    pad(preset).paint(strokes.first(7) + [movement(70)])
    grown = pad(preset).paint(strokes)
    at_once = strokes.inject(S::Page.blank(200, 80)) do |below, stroke|
      S::Painter.new(preset, seed: S::Strip::SEED).paint(
        stroke.samples,
        page: [200, 80],
        colour: stroke.colour,
        ground: below
      ).page
    end
    expect(grown.planes.zip(at_once.planes).map { |a, b| (a - b).abs.max }.max).to be < 1 / 255.0
  end

  it "repaints every stroke when the brush changes, and minds the ground, the colour and the hand" do
    preset = round_preset(size: 10)
    strokes = [movement(20), movement(60)]
    wide = pad(preset.with("tip", preset["tip"].merge("size" => {"base" => 30}))).paint(strokes)
    expect([20, 60].map { |y| wide.planes.first[y + 12, 100] }).to all be > 0.9
    expect(pad(preset).paint(strokes).planes.first[32, 100]).to eq(0)
    expect(pad(preset, ground: "painted").paint(strokes).planes.first.max).to eq(1)
    limited = pad(round_preset(size: 30)).paint([movement(40, adjustments: S::Adjustments["maximum_size" => 5])])
    expect(limited.planes.first[50, 100]).to eq(0)
  end

  it "holds so many strokes and no more" do
    many = Array.new(described_class::MOST + 1) { movement(10) }
    expect { pad(round_preset).paint(many) }.to raise_error(described_class::TooMany, /holds 400 strokes/)
  end
end
