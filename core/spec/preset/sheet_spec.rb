# frozen_string_literal: true

RSpec.describe Fobrel::Core::Preset::Sheet do
  def of(**groups) = described_class.new(round_preset(**groups))

  def pictures(count, turn: "in order", method: "dabs")
    tip = {"kind" => "picture", "frames" => ["sha256:#{"a" * 64}"] * count, "turn" => turn, "columns" => 2}
    grain = {"asset" => "sha256:#{"b" * 64}"}
    described_class.new(round_preset(tip: {"form" => tip}, grain:).with("method", method))
  end

  def titles(sheet) = sheet.settings.map(&:title)

  def setting(sheet, title) = sheet.settings.find { |one| one.title == title }

  it "lists settings in the schema's groups and order" do
    expect(
      described_class.words[:groups].map { |group|
        group[:title]
      }
    ).to eq(["Tip", "Stroke", "Grain", "Paint", "Extras"])
    expect(titles(of)).to eq(
      [
        "Hardness",
        "Size",
        "Minimum size",
        "Maximum size",
        "Roundness",
        "Angle",
        "Hard pixels",
        "Spacing",
        "Scatter across",
        "Scatter along",
        "Marks per step",
        "Smoothing",
        "Opacity",
        "Flow",
        "Blend mode",
        "Eraser",
        "Colour",
        "Mix",
        "Own paint",
        "Layer",
        "Paint behind",
        "Merge",
        "Mirror"
      ]
    )
  end

  it "lists only those that mean something for the method, the tip and the grain" do
    expect(titles(pictures(1))).to include("Grain depth")
    expect(titles(pictures(1))).not_to include("Hardness")
    reels = [pictures(1), pictures(4), pictures(4, turn: ["in order", "pressure"])]
    expect(reels.map { |sheet| titles(sheet) & %w[Turn Columns] }).to eq([[], %w[Turn], %w[Turn Columns]])
    expect(
      titles(
        pictures(
          1,
          method: "ribbon"
        )
      ) & ["Spacing", "Marks per step", "Mix", "Hard pixels", "Flow"]
    ).to eq([])
    expect(titles(pictures(1, method: "garland"))).not_to include("Own paint")
    expect(
      [of.drives, pictures(3).drives, pictures(1, method: "garland").drives].map { |drives|
        drives & ["grain depth", "frame", "mix"]
      }
    ).to eq([["mix"], ["grain depth", "frame", "mix"], ["grain depth"]])
  end

  it "counts shares in per cent, and lets no slider reach less far than its value" do
    expect(setting(of, "Hardness").to_h).to include(unit: "%", least: 0, most: 100, limit: 100, step: 1)
    expect([setting(of, "Size").most, setting(of(tip: {"size" => {"base" => 900}}), "Size").most]).to eq([200, 900])
  end

  it "holds the minimum size below the maximum, and points out a size that its limits hold back" do
    sized = ->(**size) { of(tip: {"size" => {"base" => 40, **size.transform_keys(&:to_s)}}) }
    between = sized[minimum: 5, maximum: 10]
    expect([setting(between, "Minimum size").limit, setting(between, "Maximum size").least]).to eq([10, 5])
    expect(setting(between, "Size").caution).to match(/paints at 10 px: the maximum size/)
    expect(setting(sized[minimum: 60], "Size").caution).to match(/paints at 60 px: the minimum size/)
    expect(setting(of, "Size").caution).to be_nil
  end

  it "says everything in words, with help for all of it" do
    dodge = setting(of, "Blend mode").choices.find { |one| one[:value] == "color-dodge" }
    expect([dodge[:word], setting(of, "Mirror").choices.first]).to eq(["colour dodge", {value: nil, word: "none"}])
    chance = described_class.words[:sensors].find { |one| one[:name] == "random" }
    expect(chance).to eq({name: "random", word: "random per mark", help: "Chance, anew for each mark", chance: true})
    every = [of, pictures(4, turn: %w[pressure speed])].flat_map(&:settings)
    expect(every.reject { |one| one.help.size > 5 }.map(&:title)).to eq([])
    expect(every.map(&:help).join(" ")).not_to match(/\b[01] (is|leaves|as|drags)\b/)
    expect(described_class.words[:drives].map { |one| one[:name] }).to eq(described_class.driven)
  end

  it "tells what of the moment's state could be saved along" do
    plain = of.captures
    expect(plain.map { |one| one.values_at(:name, :there, :words) }).to all(match([String, false, "nothing to save"]))
    colour = {"mode" => "fixed", "value" => "#0f6b6b"}
    held = of(paint: {"colour" => colour}, extras: {"mirror" => "down", "merge" => false}).captures
    expect(held.select { |one| one[:there] }.map { |one| one.values_at(:name, :title, :words, :colour) }).to eq(
      [
        ["colour", "Colour", "#0f6b6b", "#0f6b6b"],
        ["merge", "Merge", "off", nil],
        ["mirror", "Mirror", "down", nil]
      ]
    )
  end
end
