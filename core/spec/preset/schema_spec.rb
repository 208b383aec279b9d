# frozen_string_literal: true

# Every setting of the one list: its range is checked, its default holds, its name is said.
RSpec.describe Fobrel::Core::Preset::Schema do
  # Walks to each number, giving its path and its node.
  walk = lambda do |node, path, found|
    node = node["anyOf"].find { _1["type"] == "object" } || node if node["anyOf"]
    (node["properties"] || {}).each { |key, inner| walk.call(inner, path + [key], found) }
    found << [path, node] if %w[number integer].include?(node["type"])
    found
  end
  numbers = walk.call(described_class::DOCUMENT, [], [])

  def document
    {
      "format" => "fobrel.preset/1",
      "id" => "0b0e3a52-6a0f-4c3d-9a50-0f1d8f2f6f11",
      "name" => "One",
      "method" => "dabs",
      "tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 40}},
      "grain" => {"asset" => "sha256:#{"0" * 64}"}
    }
  end

  # A document with one setting at a value.
  def with(path, value, at = document)
    key, *rest = path
    at.merge(key => rest.empty? ? value : with(rest, value, at[key] || {}))
  end

  it "finds the numbers of every group" do
    expect(numbers.map { _1.first.first }.uniq).to match_array(%w[tip stroke grain paint])
    expect(numbers.size).to be >= 17
  end

  numbers.each do |path, node|
    name = path.join(".")

    it "holds #{name} between #{node["minimum"]} and #{node["maximum"]}" do
      step = (node["type"] == "integer") ? 1 : 0.001
      low, high = node.values_at("minimum", "maximum")
      base = (path[1] == "size") ? document.merge(
        "tip" => document["tip"].merge(
          "size" => {
            "base" => 40,
            "minimum" => 0.1,
            "maximum" => 5000
          }
        )
      ) : document
      expect(
        [low, high].map {
          described_class.problems(with(path, _1, base))
        }.flatten.grep(/must be (at|a)/)
      ).to eq([])
      expect(
        [low - step, high + step].map {
          described_class.problems(
            with(
              path,
              _1,
              base
            )
          ).join
        }
      ).to match([/#{name} must be at least/, /#{name} must be at most/])
      ["12", nil, [], {}, true].each { |wrong|
        expect(described_class.problems(with(path, wrong, base)).join).to include("#{name} must be a")
      }
    end

    it "has a title, and a default within its range, for #{name}" do
      expect(node["title"]).to match(/\A[A-Z][a-z ]+\z/)
      expect(node["default"]).to be_between(node["minimum"], node["maximum"])
      next if path == %w[tip size base]
      expect(described_class.fill(document).dig(*path)).to eq(node["default"])
    end
  end

  it "fills in once and for all, and shares nothing that could change" do
    filled = described_class.fill(document)
    expect(described_class.fill(filled)).to eq(filled)
    expect(described_class.problems(filled)).to eq([])
    expect { filled["tip"]["size"]["base"] = 1 }.to raise_error(FrozenError)
    expect { filled["paint"]["colour"]["mode"] << "x" }.to raise_error(FrozenError)
  end

  it "takes one turn or two, and no other" do
    tip = ->(turn) { with(%w[tip form], {"kind" => "picture", "frames" => ["sha256:#{"0" * 64}"], "turn" => turn}) }
    expect(["in order", "speed", %w[pressure tilt]].flat_map { described_class.problems(tip[_1]) }).to eq([])
    ["sideways", [], ["pressure"], %w[tilt tilt tilt], 3].each { |turn|
      expect(described_class.problems(tip[turn])).not_to be_empty
    }
  end
end
