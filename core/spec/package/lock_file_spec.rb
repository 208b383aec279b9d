# frozen_string_literal: true

RSpec.describe Fobrel::Core::Package::LockFile do
  lock_file = described_class
  let(:fog) { round_preset(size: 12) }
  let(:rope) { round_preset(size: 30) }
  let(:lock) do
    brushes = [fog, rope].map { |one|
      {"id" => one.id, "name" => one.name, "version" => 1, "fingerprint" => one.fingerprint}
    }
    follows = [{"library" => "Studio", "bundle" => "Inks", "release" => "2.1.0", "sha256" => "0" * 64}]
    lock_file.build(library: "Pier", follows:, brushes:, at: Time.utc(2026, 4, 1))
  end

  it "is read as it was written, the same content as the same bytes" do
    again = lock_file.parse(lock.to_json)
    expect([again.to_json, again.to_h["at"]]).to eq([lock.to_json, "2026-04-01T00:00:00Z"])
    turned = lock_file.build(
      library: "Pier",
      follows: lock.to_h["follows"],
      brushes: lock.brushes.reverse,
      at: Time.utc(2026, 4, 1)
    )
    expect(turned.to_json).to eq(lock.to_json)
  end

  it "names what differs in a folder: missing, other, more" do
    Dir.mktmpdir do |folder|
      more = round_preset(size: 99)
      other = Preset[rope.to_h.merge("tip" => rope.to_h["tip"].merge("size" => {"base" => 31}))]
      FileUtils.mkdir_p(File.join(folder, "deep"))
      File.write(File.join(folder, "deep", "a.json"), JSON.generate(more.to_h))
      File.write(File.join(folder, "b.json"), JSON.generate(other.to_h))
      File.write(File.join(folder, "start.json"), "{}")
      File.write(File.join(folder, "broken.json"), "{")
      found = lock.differences(lock_file.prints(folder))
      expect(found.map { |one| [one.kind, one.id] }).to contain_exactly(
        ["missing", fog.id], ["other", rope.id], ["more", more.id]
      )
      File.write(File.join(folder, "b.json"), JSON.generate(rope.to_h.merge("name" => "Renamed")))
      File.write(File.join(folder, "c.json"), JSON.generate(fog.to_h))
      FileUtils.rm_rf(File.join(folder, "deep"))
      expect(lock.differences(lock_file.prints(folder))).to eq([])
    end
  end

  [
    "",
    "{}",
    "[1]",
    "nothing",
    %({"format":"fobrel.lock/1","library":"x","at":"x","follows":[],"brushes":[{}]}),
    '{"format":"fobrel.lock/2","library":"x","at":"x","follows":[],"brushes":[]}',
    "[" * 5000
  ].each do |text|
    it "refuses #{text[0, 30].inspect} in a sentence" do
      expect { lock_file.parse(text) }.to raise_error(lock_file::Invalid, /lock file/)
    end
  end

  it "says so where there is no folder" do
    expect { lock_file.prints("/nowhere/at/all") }.to raise_error(Fobrel::Core::Problem, /is not a folder/)
  end
end
