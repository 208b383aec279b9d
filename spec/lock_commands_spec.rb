# frozen_string_literal: true

require "support/command"

RSpec.describe Fobrel::LockCommands, :command do
  def preset(name, size)
    tip = {"kind" => "round", "hardness" => 1}
    Fobrel::Core::Preset::Preset.build(name, {"tip" => {"form" => tip, "size" => {"base" => size}}})
  end

  it "holds a folder against a lock file: exit 0 where all is so, 1 where something differs" do
    fog = preset("Fog", 40)
    brushes = [{"id" => fog.id, "name" => "Fog", "version" => 2, "fingerprint" => fog.fingerprint}]
    lock = Fobrel::Core::Package::LockFile.build(library: "Pier", follows: [], brushes:, at: Time.now)
    File.write("fobrel.lock", lock.to_json)
    Dir.mkdir("presets")
    File.write("presets/fog.json", JSON.generate(fog.to_h))
    expect(fobrel("lock", "verify", "fobrel.lock", "--folder", "presets")).to eq(
      ["All 1 brushes are as in the lock.\n", "", 0]
    )
    File.write("presets/fog.json", JSON.generate(preset("Fog", 41).to_h.merge("id" => fog.id)))
    out, _, status = fobrel("lock", "verify", "fobrel.lock", "--folder", "presets", "--json")
    expect([JSON.parse(out)["differences"].map { |one| one["kind"] }, status]).to eq([["other"], 1])
    expect(fobrel("lock", "verify", "nothing.lock", "--folder", "presets").last).to eq(1)
    expect(fobrel("lock", "verify", "fobrel.lock", "--folder", "nowhere")[1]).to match(/is not a folder/)
    expect(fobrel("lock", "verify").last).to eq(2)
  end
end
