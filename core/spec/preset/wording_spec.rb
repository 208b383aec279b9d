# frozen_string_literal: true

RSpec.describe Fobrel::Core::Preset::Wording do
  none = Fobrel::Core::Preset::Changes::NONE

  {
    [%w[tip size base], 40] => "40 px",
    [%w[tip size base], 12.5] => "12.5 px",
    [%w[paint flow], 0.075] => "7.5 %",
    [%w[paint flow], 1] => "100 %",
    [%w[tip angle], -30.0] => "-30°",
    [%w[stroke marks_per_step], 3] => "3",
    [%w[tip crisp], true] => "on",
    [%w[tip crisp], false] => "off",
    [%w[extras mirror], nil] => "none",
    [%w[extras layer], "ink"] => "ink",
    [%w[tip form frames], ["sha256:#{"a" * 64}"]] => "1 picture",
    [%w[tip form frames], %w[a b]] => "2 pictures",
    [%w[about tags], []] => "none",
    [%w[about tags], %w[sea fog]] => "sea, fog",
    [%w[paint colour], {"mode" => "artist"}] => "the artist's",
    [%w[paint colour], {"mode" => "fixed", "value" => "#0f6b6b"}] => "#0f6b6b",
    [%w[grain], {"asset" => "sha256:x"}] => "grain",
    [%w[grain asset], "sha256:#{"ab" * 32}"] => "picture ababab",
    [%w[tip form], {"kind" => "round"}] => "round",
    [
      %w[response hue tilt 1],
      {"drives" => "hue", "from" => -5, "to" => 8.5, "curve" => [[0, 0], [1, 1]]}
    ] => "-5° to 8.5°",
    [
      %w[response size pressure 1],
      {"drives" => "size", "from" => 0.2, "to" => 1, "curve" => [[0, 0], [0.5, 0.1], [1, 1]]}
    ] => "20 % to 100 %, bent",
    [%w[paint blend], "color-dodge"] => "colour dodge",
    [%w[paint blend], "multiply"] => "multiply",
    [%w[tip form colours], "own"] => "its own",
    [%w[about author], ""] => "empty",
    [%w[response size tilt 1], none] => "none"
  }.each do |(path, value), words|
    it "says #{words.inspect} of #{path.join(".")}" do
      expect(described_class.value(path, value)).to eq(words)
    end
  end

  it "names settings as the screen does, and those it does not know by their path" do
    expect(
      [%w[stroke scatter across], %w[tip form hardness], %w[response grain\ depth speed 1], %w[future thing]].map {
        described_class.title(_1)
      }
    ).to eq(["Scatter across", "Hardness", "Grain depth by speed", "future.thing"])
  end
end
