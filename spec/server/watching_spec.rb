# frozen_string_literal: true

require "support/api"

RSpec.describe "watching over the server", :api do
  # Asked as somebody of no session, from an address.
  def ask(path, from: "127.0.0.1", **headers)
    env = Rack::MockRequest.env_for(
      "http://localhost#{path}",
      "REMOTE_ADDR" => from,
      "HTTP_HOST" => "localhost",
      **headers.transform_keys(&:to_s)
    )
    @status, @headers, body = app.call(env)
    body.respond_to?(:call) ? "" : body.to_enum.to_a.join
  end

  it "says that it is there, whatever is with the database" do
    allow(Studio::M::Record).to receive(:connection).and_raise(ActiveRecord::ConnectionNotEstablished)
    expect([JSON.parse(ask("/healthz")), @status]).to eq([{"status" => "ok"}, 200])
    expect(JSON.parse(ask("/readyz"))["checks"]["database"]).to match(/does not answer/)
    expect([@status, @headers["retry-after"]]).to eq([503, "5"])
  end

  it "says whether it could work: tables, a process for long work, room on the disk" do
    checks = -> { JSON.parse(ask("/readyz"))["checks"] }
    Studio::M::Pulse.delete_all
    expect(checks.call["queue"]).to match(/No process/)
    Studio::M::Pulse.create!(host: "here", pid: 1, kind: "work", said: {}, seen_at: Time.current)
    expect([checks.call.values.uniq, @status]).to eq([["ok"], 200])
    stub_const("Fobrel::Watching::Health::LEAST", 1 << 60)
    expect([checks.call["disk"], @status]).to match([/full but for \d+ MB/, 503])
    Studio::M::Record.connection.execute("DELETE FROM schema_migrations WHERE version > '20261127000020'")
    expect(checks.call["migrations"]).to match(/earlier version/)
  end

  # Reference: the text exposition format 0.0.4 of Prometheus: "# TYPE" before its samples, a sample a line.
  it "gives figures in the open text format, to this machine or who shows the token, and to nobody else" do
    sign_in("maren")
    call(:get, "/api/inbox")
    text = ask("/metrics")
    expect(@headers["content-type"]).to start_with("text/plain")
    expect(text).to match(%r{^fobrel_requests_total\{.*route="/api/inbox".*status="200".*\} [1-9]})
    expect(text).to match(/^fobrel_sessions [1-9]/).and match(/^fobrel_database_pool\{state="size"\} [1-9]/)
    sample = /\A[a-z_]+(\{([a-z]+="[^"\n]*",?)+\})? [-+0-9.e]+\z/
    expect(text.lines(chomp: true).grep_v(/\A(# (TYPE|HELP) .+|)\z/)).to all(match(sample))
    ask("/metrics", from: "10.0.0.9")
    expect(@status).to eq(404)
    ask("/metrics", HTTP_X_FORWARDED_FOR: "10.0.0.9")
    expect(@status).to eq(404)
    ENV["METRICS_TOKEN"] = "a token of more than sixteen"
    ask("/metrics", from: "10.0.0.9", HTTP_AUTHORIZATION: "Bearer a token of more than sixteen")
    expect(@status).to eq(200)
  ensure
    ENV.delete("METRICS_TOKEN")
  end

  it "counts from the first moment, however many are first" do
    metrics = Fobrel::Watching::Metrics
    kept = metrics.instance_variables.to_h { |name| [name, metrics.remove_instance_variable(name)] }
    30.times do
      registry = Prometheus::Client::Registry.new
      allow(Prometheus::Client).to receive(:registry).and_return(registry)
      %i[@strips @requests @time].each { |name|
        metrics.remove_instance_variable(name) if metrics.instance_variable_defined?(name)
      }
      gate = Thread::Queue.new
      threads = Array.new(8) { Thread.new { gate.pop && metrics.painted && metrics.asked("GET", "/x", 200, 0.1) } }
      8.times { gate << true }
      expect { threads.each { |one| one.report_on_exception = false }.each(&:value) }.not_to raise_error
    end
  ensure
    # Where nothing had been counted before, the figures of the trials must not stay.
    metrics.instance_variables.each { |name| metrics.remove_instance_variable(name) }
    kept&.each { |name, value| metrics.instance_variable_set(name, value) }
  end

  it "writes each request down as a line of JSON with its number, and nothing that was sent" do
    Fobrel::Watching::Log.again
    file = File.join(Fobrel.var, "log/fobrel.jsonl")
    before = File.exist?(file) ? File.size(file) : 0
    sign_in("maren")
    call(:get, "/api/libraries/#{@first.id}/brushes?q=lantern-secret")
    call(:get, "/api/invitations/a-key-that-opens-a-door")
    text = File.read(file, mode: "rb")[before..].force_encoding("UTF-8")
    lines = text.lines.map { JSON.parse(_1) }.grep(->(line) { line["event"] == "request" })
    brushes = lines.find { _1["route"] == "/api/libraries/{library}/brushes" }
    expect(brushes).to include(
      "verb" => "GET",
      "status" => 200,
      "person" => a_kind_of(Integer),
      "ms" => a_kind_of(Float)
    )
    expect(text).not_to match(/lantern-secret|a-key-that-opens|#{Studio::PASSWORD}/o)
    ask("/healthz-not", HTTP_X_REQUEST_ID: "given-by-others-1")
    expect(@headers["x-request-id"]).to eq("given-by-others-1")
    ask("/", HTTP_X_REQUEST_ID: "no good\nnumber")
    expect(@headers["x-request-id"]).to match(/\A\h{16}\z/)
  end

  it "says with its number what went wrong on our side, and that the database is away" do
    sign_in("maren")
    allow(Fobrel::Views::Rows).to receive(:by_id).and_raise("boom")
    allow(Fobrel::Watching::Log).to receive(:warn)
    said = call(:get, "/api/libraries/#{@first.id}/brushes")["error"]
    expect([status, said]).to match([500, /the number #{last_response.headers["x-request-id"]}\.\z/])
    allow(Fobrel::Views::Rows).to receive(:by_id).and_raise(ActiveRecord::ConnectionFailed)
    said = call(:get, "/api/libraries/#{@first.id}/brushes")["error"]
    expect([status, said]).to match([503, /database does not answer.*Try again/])
    expect(last_response.headers).to include("retry-after" => "2", "x-away" => "database")
  end

  it "answers an address that is none as such" do
    here = %w[
      /
      /1
      /1/brushes
      /brushes/hidden
      /1/bench/3
      /bench/3
      /1/brushes/compare
      /1/library/people
      /studio
      /invitation/abc
      /begin
    ]
    none = %w[/1/nothing /nothing /1/brushes/3 /favicon.ico /assets/none.js /invitation]
    got = [here, none].map { |list| list.map { |path| ask(path) && @status }.uniq }
    expect(got).to eq([[200], [404]])
    expect([ask("/assets/none.js"), ask("/1/nothing")]).to match([/no such file/, /<!doctype html>/i])
  end

  it "says to whoever signs in that the database is away" do
    fresh_token
    [Studio::M::Try, Studio::M::Person].each { |model|
      allow(model).to receive(:connection).and_raise(ActiveRecord::ConnectionNotEstablished)
    }
    allow(Studio::M::Person).to receive(:here).and_raise(ActiveRecord::ConnectionNotEstablished)
    said = call(:post, "/api/session", {login: "maren", password: "x"})["error"]
    expect([status, said]).to match([503, /database does not answer/])
  end

  it "counts tries for all processes together, and anew when the time is over" do
    count = -> { Studio::M::Try.increment("door", 1, expires_in: 60) }
    expect([count.call, count.call, Studio::M::Try.read("door")]).to eq([1, 2, 2])
    Studio::M::Try.update_all(ends_at: 1.second.ago)
    expect([Studio::M::Try.read("door"), count.call]).to eq([nil, 1])
    expect(Rack::Attack.cache.store).to eq(Studio::M::Try)
  end

  it "gives figures to this machine under its own names only" do
    ask = ->(**env) { get("/metrics", {}, {"REMOTE_ADDR" => "127.0.0.1", **env.transform_keys(&:to_s)}) && status }
    # What is no address of ours is not there (or not under this name).
    header "Host", nil
    expect([ask[HTTP_HOST: "localhost:4810"], ask[HTTP_HOST: "127.0.0.1"]]).to eq([200, 200])
    expect([ask[HTTP_HOST: "evil.example"], ask[HTTP_HOST: "localhost", REMOTE_ADDR: "10.0.0.9"]]).to eq([403, 404])
  end

  it "is not ready when the folder for what is sent is full" do
    health = Fobrel::Watching::Health
    allow(health).to receive(:free).and_call_original
    allow(health).to receive(:free).with(Dir.tmpdir).and_return(1_000_000)
    expect(health.checks[:disk]).to match(/full but for 0 MB/)
  end

  it "writes neither cookies nor tokens down, wherever an error tells them" do
    said = "bad header Cookie: fobrel.session=abc%2Fdef; x, Authorization: Bearer sekret-1 and fobrel_#{"k" * 43} \xFF"
    expect { Fobrel::Watching::Log.trouble("A request", RuntimeError.new(said)) }
      .to output(/fobrel\.session=…; x, Authorization: Bearer … and …/).to_stderr
  end
end
