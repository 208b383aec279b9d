# frozen_string_literal: true

RSpec.describe Fobrel::Core::Preset::Wording do
  none = Fobrel::Core::Preset::Changes::NONE

  {
    [%w[mark size base], 40] => "40 px",
    [%w[mark size base], 12.5] => "12.5 px",
    [%w[pigment flow], 0.075] => "7.5 %",
    [%w[pigment flow], 1] => "100 %",
    [%w[mark angle], -30.0] => "-30°",
    [%w[trail count], 3] => "3",
    [%w[mark crisp], true] => "on",
    [%w[mark crisp], false] => "off",
    [%w[habits mirror], nil] => "none",
    [%w[habits layer], "ink"] => "ink",
    [%w[mark tip frames], ["sha256:#{"a" * 64}"]] => "1 picture",
    [%w[mark tip frames], %w[a b]] => "2 pictures",
    [%w[about tags], []] => "none",
    [%w[about tags], %w[sea fog]] => "sea, fog",
    [%w[pigment colour], {"mode" => "artist"}] => "the artist's",
    [%w[pigment colour], {"mode" => "fixed", "value" => "#0f6b6b"}] => "#0f6b6b",
    [%w[surface], {"asset" => "sha256:x"}] => "grain",
    [%w[surface asset], "sha256:#{"ab" * 32}"] => "picture ababab",
    [%w[mark tip], {"kind" => "round"}] => "round",
    [
      %w[response hue tilt 1],
      {"drives" => "hue", "from" => -5, "to" => 8.5, "curve" => [[0, 0], [1, 1]]}
    ] => "-5° to 8.5°",
    [
      %w[response size pressure 1],
      {"drives" => "size", "from" => 0.2, "to" => 1, "curve" => [[0, 0], [0.5, 0.1], [1, 1]]}
    ] => "20 % to 100 %, bent",
    [%w[pigment blend], "color-dodge"] => "colour dodge",
    [%w[pigment blend], "multiply"] => "multiply",
    [%w[mark tip colours], "own"] => "its own",
    [%w[about author], ""] => "empty",
    [%w[response size tilt 1], none] => "none"
  }.each do |(path, value), words|
    it "says #{words.inspect} of #{path.join(".")}" do
      expect(described_class.value(path, value)).to eq(words)
    end
  end

  it "names settings as the screen does, and those it does not know by their path" do
    expect(
      [%w[trail scatter across], %w[mark tip hardness], %w[response grain\ depth speed 1], %w[future thing]].map {
        described_class.title(_1)
      }
    ).to eq(["Scatter across", "Hardness", "Grain depth by speed", "future.thing"])
  end
end
