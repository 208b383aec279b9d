# frozen_string_literal: true

RSpec.describe Fobrel::Core::Startup::Layers do
  let(:random) { Random.new(RSpec.configuration.seed) }

  def line(thing, part = "startup", **more) = described_class::Line.new(thing:, part:, **more)

  def list(size, from: 30)
    lines = (1..from).to_a.sample(size, random:).map { |n|
      line(
        "brush/#{n}",
        %w[startup shelf].sample(random:),
        section: [nil, "Nibs"].sample(random:),
        at: [nil, 2].sample(random:)
      )
    }
    lines.sort_by.with_index { |one, at| [(one.part == "startup") ? 0 : 1, at] }
  end

  it "says with few words how one list becomes another" do
    from = %w[a b c d].map { line(_1) }
    to = [line("a"), line("d"), line("b"), line("x"), line("c", "shelf")]
    changes = described_class.differences(from, to)
    expect(changes).to eq(
      [
        {"put" => {"thing" => "d", "part" => "startup"}, "after" => "a"},
        {"put" => {"thing" => "x", "part" => "startup"}, "after" => "b"},
        {"put" => {"thing" => "c", "part" => "shelf"}, "after" => "x"}
      ]
    )
    expect(changes.map { described_class.kind(_1, from) }).to eq(%w[moved added moved])
    expect(described_class.apply(from, changes)).to eq(to)
  end

  it "makes of any list any other, and of a list itself nothing" do
    200.times do
      from, to = list(random.rand(0..18)), list(random.rand(0..18))
      expect(described_class.apply(from, described_class.differences(from, to))).to eq(to)
      expect(described_class.differences(from, from)).to eq([])
    end
  end

  it "keeps a desk's own changes when the template changes elsewhere" do
    100.times do
      template = list(12)
      own = template.reject { random.rand < 0.2 } + [line("brush/99", "shelf")]
      own = own.sort_by.with_index { |one, at| [(one.part == "startup") ? 0 : 1, at] }
      changes = described_class.differences(template, own)
      fresh = line("brush/77", "startup")
      desk = described_class.apply([fresh, *template], changes).map(&:thing)
      expect(desk).to include("brush/77", "brush/99")
      expect(desk & (template - own).map(&:thing)).to eq([])
    end
  end

  it "puts what stood behind something that is gone at the end of its part" do
    changes = [{"put" => {"thing" => "x", "part" => "startup"}, "after" => "gone"}]
    found = described_class.apply([line("a"), line("b"), line("c", "shelf")], changes)
    expect(found.map(&:thing)).to eq(%w[a b x c])
  end
end

RSpec.describe Fobrel::Core::Startup::Keys do
  def clashes(keys, **more) = described_class.new(keys, **more).clashes

  it "tells what two want, what the program keeps, and the nearest that is free" do
    found = clashes(
      {
        "a" => "5",
        "b" => "5",
        "c" => "1",
        "d" => "4"
      },
      reserved: {"1" => "undo", "6" => "redo"},
      names: {"a" => "Fog", "b" => "Ink"}
    )
    expect(found.map { [_1.key, _1.ids, _1.free] }).to eq([["5", %w[a b], "3"], ["1", %w[c], "2"]])
    expect(found.map(&:why)).to eq(["5 is wanted by “Fog” and “Ink”.", "The painting program keeps 1 for “undo”."])
  end

  it "has only so many keys, and only keys" do
    many = (1..11).to_h { |n| [n.to_s, (n < 10) ? n.to_s : "Shift+#{n - 9}"] }
    expect(clashes(many).map { [_1.key, _1.why] }).to eq([[nil, "There are 10 keys for brushes, and 11 wanted."]])
    expect(clashes({"a" => "rm -rf"}).first.why).to match(/is not a key/)
    expect(clashes({"a" => "Ctrl+Alt+Shift+F12"})).to eq([])
    all = described_class::ROW.each_with_index.to_h { |key, at| [at.to_s, key] }
    expect(described_class.new(all).nearest("5")).to eq("Shift+5")
  end
end

RSpec.describe Fobrel::Core::Startup::Load do
  it "counts each half-size copy down to one pixel" do
    # 4 × 4 + 2 × 2 + 1; a third more than the picture for large ones.
    expect(described_class.memory(4, 4)).to eq(21)
    expect(described_class.memory(3, 1, 4)).to eq(16)
    expect(described_class.memory(512, 512) / (512.0 * 512)).to be_within(0.001).of(4 / 3.0)
  end

  it "learns from a desk's own starts, and is within a factor of two after three" do
    random = Random.new(RSpec.configuration.seed)
    50.times do
      slow, each, every = random.rand(0.3..6.0), random.rand(2.0..30.0), random.rand(4.0..60.0)
      took = ->(brushes, bytes) { slow * (each * brushes + every * bytes / 1e6) * random.rand(0.9..1.1) }
      starts = Array.new(3) {
        brushes, bytes = random.rand(5..60), random.rand(1e6..4e7)
        [described_class.usual(brushes, bytes), took.call(brushes, bytes)]
      }
      brushes, bytes = random.rand(10..50), random.rand(5e6..3e7)
      guess = described_class.time(brushes, bytes, starts)
      expect(guess / took.call(brushes, bytes)).to be_between(0.2, 5)
      # A plan that is tuned, not another one.
      near = Array.new(3) { [brushes * random.rand(0.8..1.2), bytes * random.rand(0.8..1.2)] }
      learned = near.map { |count, size| [described_class.usual(count, size), took.call(count, size)] }
      expect(described_class.time(brushes, bytes, learned) / took.call(brushes, bytes)).to be_between(0.5, 2)
    end
    expect(described_class.time(10, 1e6)).to eq(described_class.usual(10, 1e6))
  end
end
