# frozen_string_literal: true

# Nothing from outside holds a processor, or fills the memory.
RSpec.describe "limits" do
  clock = Fobrel::Core::Clock

  def seconds
    before = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    yield
    Process.clock_gettime(Process::CLOCK_MONOTONIC) - before
  end

  # Seconds that nobody else can reach the end of.
  def nap(length, **turn)
    Thread.new { apart.for(apart::Turn.new(rank: :now, **turn)) { apart.call(Kernel, :sleep, length) } }
  end

  def apart = Fobrel::Core::Apart

  it "run what is asked in a process of its own and give back what it gives, problems too" do
    expect(apart.call(JSON, :parse, '{"a": [1, "é"]}')).to eq({"a" => [1, "é"]})
    expect(apart.call(Process, :pid)).not_to eq(Process.pid)
    expect {
      apart.call(
        Fobrel::Core::Preset::Preset,
        :parse,
        "no",
        name: "It"
      )
    }.to raise_error(Fobrel::Core::Preset::Preset::Invalid, /It/)
    expect { apart.call(Integer, :sqrt, -1) }.to raise_error(RuntimeError, /Math::DomainError/)
    expect(apart.call(SecureRandom, :bytes, 20_000_000).bytesize).to eq(20_000_000)
  end

  it "end what takes too long, by its own work or by waiting, and what wants too much memory" do
    # A second of processor time; on a busy machine the clock may end it first, after ten.
    expect { apart.call(Kernel, :eval, "loop {}", seconds: 1) }.to raise_error(apart::Ended, /longer than 10? seconds/)
    expect(
      seconds {
        expect {
          clock.within(1) { apart.call(Kernel, :sleep, 30) }
        }.to raise_error(apart::Ended, /longer than 1 seconds/)
      }
    ).to be < 10
    expect {
      apart.call(Array, :new, 100_000_000, 0, memory: 1 << 26, fresh: true)
    }.to raise_error(apart::Ended, /more memory/)
    expect {
      apart.call(
        File,
        :write,
        File.join(Dir.tmpdir, "fobrel-limits"),
        "x" * (2 << 20)
      )
    }.to raise_error(RuntimeError, /File too large/)
    expect(apart.call(Process, :pid, fresh: true)).not_to eq(apart.call(Process, :pid))
  end

  it "count processor time when nobody waits for the answer, and give up on what never ends" do
    expect(apart.call(Kernel, :eval, "sleep 1.6; Fobrel::Core::Clock.tick; 7", seconds: 0.5)).to eq(7)
    expect { apart.call(Kernel, :sleep, 30, seconds: 0.1) }.to raise_error(apart::Ended, /longer than 1 seconds/)
    expect { clock.within(60) { apart.call(Kernel, :eval, "loop { Fobrel::Core::Clock.tick }", seconds: 1) } }
      .to raise_error(clock::Over, /longer than 1 seconds/)
  end

  it "let long work wait for a place longer than somebody at the page would" do
    busy = nap(2.5, who: 9)
    100.times { apart.crew.lengths[:running].empty? ? sleep(0.02) : break }
    apart.for(apart::Turn.new(who: 9, rank: :later)) do
      expect { clock.within(0.5) { apart.call(Process, :pid) } }.to raise_error(apart::Busy, /Others were before you/)
      expect(apart.call(Process, :pid, seconds: 0.5)).to be_positive
    end
    busy.join
  end

  it "go on when a process at work is ended from outside, and when all are" do
    # All processes of one crew are one group.
    group = Process.getpgid(apart.call(Process, :pid))
    ended = nap(20, who: 7).tap { |thread| (thread.report_on_exception = false) || sleep(0.3) }
    Process.kill(:KILL, -group)
    expect { ended.join }.to raise_error(apart::Ended, /was ended/)
    expect(Process.getpgid(apart.call(Process, :pid))).not_to eq(group)
  end

  it "leave one person, and one studio, never all places, and let what is followed by hand go first" do
    crew = apart::Crew.new(size: 3)
    order = Thread::Queue.new
    asked = -> { crew.lengths.values.flat_map(&:values).sum }
    call = lambda do |name, length, **turn|
      before = asked.call
      Thread.new {
        crew.call(
          apart::Turn.new(**turn),
          ["Kernel", :sleep, [length], {}],
          seconds: 20,
          memory: apart::MEMORY,
          fresh: false
        ) && order << name
      }.tap { 100.times { (asked.call > before) ? break : sleep(0.02) } }
    end
    first = [
      call["one's first", 1.2, who: 1, where: 1, rank: :now],
      call["one's second", 0.1, who: 1, where: 1, rank: :now]
    ]
    expect(crew.lengths).to eq({running: {now: 1}, waiting: {now: 1}})
    first << call["another's",
      1.2,
      who: 2,
      where: 1,
      rank: :now] << call["a third of the studio", 0.1, who: 3, where: 1, rank: :now]
    expect(crew.lengths).to eq({running: {now: 2}, waiting: {now: 2}})
    first << call["elsewhere", 0.1, who: 4, where: 2, rank: :later]
    first.each(&:join)
    expect(Array.new(5) { order.pop }.first).to eq("elsewhere")
    later = call["later", 0.8, who: 1, where: 1, rank: :later]
    waiting = [
      call["a batch", 0.1, who: 1, where: 1, rank: :later],
      call["a stroke", 0.1, who: 1, where: 1, rank: :now]
    ]
    [later, *waiting].each(&:join)
    expect(Array.new(3) { order.pop }).to eq(["later", "a stroke", "a batch"])
  end

  it "end when nobody has asked anything of them for a while, and others come when they are needed" do
    crew = apart::Crew.new(size: 3, rest: 0.4)
    ask = -> {
      crew.call(
        apart::Turn.new(who: 1),
        ["Process", :pid, [], {}],
        seconds: 20,
        memory: apart::MEMORY,
        fresh: false
      )
    }
    there = ->(pid) { File.exist?("/proc/#{pid}") && !File.read("/proc/#{pid}/stat").match?(/\) Z /) }
    first = ask.call
    expect(ask.call).to eq(first)
    100.times { there.call(first) ? sleep(0.05) : break }
    expect(there.call(first)).to be(false)
    expect(ask.call).not_to eq(first)
  end

  it "say at once that too many wait, and leave when whoever asked has left" do
    crew = apart::Crew.new(size: 3, waiting: 3)
    near, far = UNIXSocket.pair
    turn = apart::Turn.new(who: 1, rank: :now, gone: near)
    asked = ["Kernel", :sleep, [20], {}]
    call = -> { crew.call(turn, asked, seconds: 20, memory: apart::MEMORY, fresh: false) }
    waiting = Array.new(2) { Thread.new(&call).tap { |thread| thread.report_on_exception = false } }
    100.times { (crew.lengths == {running: {now: 1}, waiting: {now: 1}}) ? break : sleep(0.02) }
    expect(&call).to raise_error(apart::Busy, /so much that you asked for/i)
    far.close
    expect(seconds { waiting.each { |one| expect { one.join }.to raise_error(apart::Gone) } }).to be < 3
    expect(crew.lengths).to eq({running: {}, waiting: {}})
  end

  it "end export_templates that were made to be slow or large" do
    export_template = Fobrel::Core::Package::ExportTemplate
    preset = Fobrel::Core::Preset::Preset.build(
      "Fog",
      {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 9}}}
    )
    [
      "{{ (1..60000000) | join | size }}",
      "{{ 'a' | date: '%100000000d' | size }}",
      "{% assign a = 'aaaaaaaaaa' %}{% for i in (1..12) %}{% assign a = a | replace: 'a', 'aaaaaaaaaa' %}{% endfor %}"
    ].each do |body|
      before = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      begin
        export_template["name" => "n", "scope" => "each", "file" => "f", "body" => body].write([preset])
      rescue export_template::Invalid => e
        expect(e.message).to match(/Nothing was written/)
      end
      expect(Process.clock_gettime(Process::CLOCK_MONOTONIC) - before).to be < 15
    end
  end

  it "end a shape that draws for ever, and go on with the next" do
    stub_const("Fobrel::Core::Tip::Vector::SECONDS", 1)
    endless = "<svg xmlns='http://www.w3.org/2000/svg' width='99' height='99'><filter id='f'><feTurbulence " \
      "numOctaves='2147483647' baseFrequency='0.9'/></filter><rect width='99' height='99' filter='url(#f)'/></svg>"
    files = {"endless.svg" => endless, "line.svg" => endless.sub("filter='url(#f)'", "")}.map { |name, text|
      Fobrel::Core::Package::Delivery::File.new(name, StringIO.new(text.b))
    }
    found = Fobrel::Core::Package::Delivery.read(files)
    expect(
      found.items.map {
        [
          _1.kind,
          _1.sentence
        ]
      }
    ).to contain_exactly(
      ["unreadable", /endless.svg could not be unpacked. It took longer than 10? seconds/],
      ["preset", nil]
    )
  end

  # Memory is the limit here: what is read of 40 million pixels in colour stays below it. A busy machine takes its
  # time.
  it "read the largest picture that may come" do
    patient = Fobrel::Core::Tip::Outside::LIMITS.merge(seconds: 120)
    stub_const("Fobrel::Core::Tip::Outside::LIMITS", patient)
    large = Vips::Image.black(7000, 5600).bandjoin([90, 200, 0]).cast(:uchar).copy(interpretation: :srgb).draw_rect(
      [10, 90, 200, 255], 500, 500, 3000, 3000, fill: true
    )
    marks = Fobrel::Core::Tip::Outside.marks(large.pngsave_buffer(compression: 1), name: "large")
    expect([marks.own, marks.found.map(&:first)]).to eq([true, [:png]])
  end

  it "refuse a stroke before it is painted, where it would lay more than anybody waits for" do
    stroke = Fobrel::Core::Stroke
    brush = ->(tip, **mark) {
      Fobrel::Core::Preset::Preset.build(
        "Heavy",
        {
          "tip" => {"form" => tip, "size" => {"base" => 300, "maximum" => 5000, **mark}},
          "stroke" => {"spacing" => 0.02, "marks_per_step" => 32}
        }
      )
    }
    samples = stroke::SampleStroke.fetch("swell").on([1200, 600])
    expect(
      seconds {
        expect {
          stroke::Painter.new(brush[{"kind" => "round"}]).paint(
            samples,
            page: [1200, 600]
          )
        }.to raise_error(
          stroke::Painter::CannotPaint,
          /would lay \d+ dabs, together about \d+ million pixels; at most 400 million/
        )
      }
    ).to be < 2
    # The same on the Bench, where it is brought down to fit, is a stroke like another.
    expect(
      stroke::Strip.png(
        Fobrel::Core::Preset::Preset.build(
          "Wide",
          {
            "tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 900, "maximum" => 5000}},
            "stroke" => {"spacing" => 0.1}
          }
        )
      )
    ).to start_with("\x89PNG".b)
  end

  it "end a stroke that takes longer than one waits" do
    stroke = Fobrel::Core::Stroke
    heavy = Fobrel::Core::Preset::Preset.build(
      "Heavy",
      {
        "tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 40}},
        "stroke" => {"spacing" => 0.02, "marks_per_step" => 32},
        "response" => [{"drives" => "opacity", "by" => "random", "from" => 0, "to" => 1, "curve" => [[0, 0], [1, 1]]}]
      }
    )
    expect {
      clock.within(0.3) {
        stroke::Strip.png(heavy, shape: "bench")
      }
    }.to raise_error(clock::Over, /longer than 0 seconds|Nothing was changed/)
    expect { clock.within(60) { clock.within(0) { clock.tick } } }.to raise_error(clock::Over)
    expect { clock.within(0.2) { clock.within(60) { sleep(0.3) && clock.tick } } }.to raise_error(clock::Over)
    expect { clock.tick }.not_to raise_error
  end
end
