# frozen_string_literal: true

# Nothing from outside holds a processor, or fills the memory.
RSpec.describe "limits" do
  apart = Fobrel::Core::Apart
  clock = Fobrel::Core::Clock

  it "run what is asked in a process of its own and give back what it gives, problems too" do
    expect(apart.run(seconds: 5, memory: 1 << 28) { {"a" => [1, "é"]} }).to eq({"a" => [1, "é"]})
    expect(apart.run(seconds: 5, memory: 1 << 28) { Process.pid }).not_to eq(Process.pid)
    expect { apart.run(seconds: 5, memory: 1 << 28) { raise Fobrel::Core::Package::Recipe::Invalid, "so" } }.to raise_error(Fobrel::Core::Package::Recipe::Invalid, "so")
    expect(apart.run(seconds: 5, memory: 1 << 30) { "x" * 20_000_000 }.bytesize).to eq(20_000_000)
  end

  it "end what takes too long, by its own work or by waiting, and what wants too much memory" do
    expect { apart.run(seconds: 1, memory: 1 << 28) { loop {} } }.to raise_error(apart::Ended, /longer than 1 seconds/)
    expect { apart.run(seconds: 1, memory: 1 << 28) { sleep 30 } }.to raise_error(apart::Ended, /longer than 1 seconds/)
    expect { apart.run(seconds: 5, memory: 1 << 26) { "x" * (1 << 30) } }.to raise_error(apart::Ended, /more memory/)
  end

  it "end recipes that were made to be slow or large" do
    recipe = Fobrel::Core::Package::Recipe
    preset = Fobrel::Core::Preset::Preset.build("Fog", {"mark" => {"tip" => {"kind" => "round"}, "size" => {"base" => 9}}})
    ["{{ (1..60000000) | join | size }}", "{{ 'a' | date: '%100000000d' | size }}", "{% assign a = 'aaaaaaaaaa' %}{% for i in (1..12) %}{% assign a = a | replace: 'a', 'aaaaaaaaaa' %}{% endfor %}"].each do |body|
      before = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      begin
        recipe["name" => "n", "scope" => "each", "file" => "f", "body" => body].write([preset])
      rescue recipe::Invalid => e
        expect(e.message).to match(/Nothing was written/)
      end
      expect(Process.clock_gettime(Process::CLOCK_MONOTONIC) - before).to be < 15
    end
  end

  it "end a stroke that takes longer than one waits" do
    stroke = Fobrel::Core::Stroke
    heavy = Fobrel::Core::Preset::Preset.build("Heavy", {"mark" => {"tip" => {"kind" => "round"}, "size" => {"base" => 40}}, "trail" => {"spacing" => 0.02, "count" => 32}, "response" => [{"drives" => "opacity", "by" => "random", "from" => 0, "to" => 1, "curve" => [[0, 0], [1, 1]]}]})
    expect { clock.within(0.3) { stroke::Strip.png(heavy, shape: "bench") } }.to raise_error(clock::Over, /longer than 0 seconds|Nothing was changed/)
    expect { clock.within(60) { clock.within(0) { clock.tick } } }.to raise_error(clock::Over)
    expect { clock.within(0.2) { clock.within(60) { sleep(0.3) && clock.tick } } }.to raise_error(clock::Over)
    expect { clock.tick }.not_to raise_error
  end
end
