# frozen_string_literal: true

RSpec.describe Fobrel::Core::JsonSchema do
  let(:brush) do
    tip = {"form" => {"kind" => "picture", "frames" => ["sha256:#{"a" * 64}"]}, "size" => {"base" => 9}}
    Fobrel::Core::Preset::Preset.build("Reed", {"tip" => tip}).to_h
  end

  it "follows references rightly, also when several threads ask for the first time at once" do
    schema = described_class.load(Fobrel::Core::Preset::Schema::DOCUMENT)
    # A lookup that takes its time lets another thread come in while a reference is being resolved.
    schema.resources[:lexical].extend(Module.new { def [](*) = super.tap { sleep 0.01 } })
    Array.new(8) { Thread.new { schema.valid?(brush) } }.each(&:join)
    expect(schema.valid?(brush)).to be(true)
    expect(schema.valid?(JSON.parse(JSON.generate(brush).sub("sha256:", "md5:")))).to be(false)
  end
end
