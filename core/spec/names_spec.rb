# frozen_string_literal: true

# The composed and decomposed spellings are those of Unicode Standard Annex 15, figure 3.
RSpec.describe Fobrel::Core::Names do
  it "makes names that look the same the same" do
    {
      "s\u0323\u0307" => "\u1E69",
      "d\u0323\u0307" => "\u1E0D\u0307",
      "a  b" => "a b",
      " a\u00A0\u2003b\t\r\n" => "a b",
      "fog\u200B\u200E" => "fog",
      "\u202Egof\u202C" => "gof",
      "a\u200Db" => "ab",
      "\u200B \uFEFF" => "",
      "line\u0001d" => "line d",
      "a \u200B b" => "a b"
    }.each do |name, clean|
      expect(described_class.clean(name)).to eq(clean), name.inspect
      expect(described_class.clean(clean)).to eq(clean)
    end
  end

  it "keeps joiners where letters or emoji need them" do
    [
      "\u0645\u06CC\u200C\u062E\u0648\u0627\u0647\u0645",
      "\u{1F468}\u200D\u{1F3A8}",
      "\u0915\u094D\u200D\u0937"
    ].each { |name|
      expect(described_class.clean(name)).to eq(name)
    }
  end

  it "stands in every preset" do
    made = Fobrel::Core::Preset::Preset.build(
      " Fog\u200B  bank ",
      {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 4}}}
    )
    expect(made.name).to eq("Fog bank")
    expect { made.with("name", "\u200B") }.to raise_error(Fobrel::Core::Preset::Preset::Invalid)
  end
end
