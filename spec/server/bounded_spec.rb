# frozen_string_literal: true

require "support/api"

# Work ends: what fails, what takes its process down, and what is larger than it looks.
RSpec.describe "bounded work", :api do
  let(:library) { "/api/libraries/#{@second.id}" }

  before { sign_in("maren") }

  def task(about, **more)
    Studio::M::Task.create!(library: @second, kind: "ReadImport", about:, message: "Reading", **more)
  end

  def job(task, failed)
    Fobrel::Jobs::ReadImport.new(
      {
        id: 0,
        args: [task.id],
        kwargs: {},
        error_count: failed,
        job_class: "Fobrel::Jobs::ReadImport"
      }
    )
  end

  it "gives a failing job up after three tries, and says so" do
    broken = task({})
    expect { 2.times { |failed| job(broken, failed)._run } }.to output(/KeyError/).to_stderr
    expect(broken.reload).not_to be_over
    expect { job(broken, 2)._run }.to output(/KeyError/).to_stderr
    expect([broken.reload.state, broken.message]).to match(["failed", /went wrong on our side, 3 times/])
  end

  it "puts an import aside whose work ended its process every time, and it can be discarded" do
    import = @second.imports.create!(name: "heavy", source: "dropped", state: "applying")
    deadly = task({"import" => import.id}, tries: 3)
    import.update!(task: deadly)
    Fobrel::Jobs::ApplyImport.run(deadly.id)
    expect(
      [
        deadly.reload.state,
        deadly.message,
        import.reload.state
      ]
    ).to match(
      [
        "failed",
        /each of 3 tries ended before it was through. Nothing was changed/,
        "planned"
      ]
    )
    expect(call(:delete, "/api/imports/#{import.id}")).to eq({"ok" => true})
  end

  it "ends work that takes longer than any honest one, and says so" do
    stub_const("Fobrel::Jobs::Job::SECONDS", 0.2)
    import = @second.imports.create!(name: "slow", source: "dropped", state: "reading")
    allow_any_instance_of(Fobrel::Jobs::ReadImport).to receive(:found) { sleep 20 }
    slow = task({"import" => import.id})
    Fobrel::Jobs::ReadImport.run(slow.id)
    expect(
      [
        slow.reload.state,
        slow.message,
        import.reload.state
      ]
    ).to match(
      [
        "failed",
        /took longer than .* minutes and was ended. Nothing was changed/,
        "open"
      ]
    )
  end

  it "tells how long a large import takes, and refuses one that is larger than may come" do
    preset = Fobrel::Core::Preset::Preset.build(
      "Fog",
      {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 4}}}
    )
    many = lambda do |count|
      sets = Array.new(count) { |n| Fobrel::Core::Package::Bundle::Group.new(name: "S#{n}", presets: [preset.id]) }
      bundle = Fobrel::Core::Package::Bundle.build(
        items: [Fobrel::Core::Package::Bundle::Item.new(preset:, version: 1)], assets: {}, sets:, name: "Sets"
      )
      StringIO.new("".b).tap { |io| Fobrel::Core::Package::Writer.write(bundle, io) }.string
    end
    expect(deliver(@second, {"s.zip" => many[20]})["seconds"]).to eq(1)
    stub_const("Fobrel::Jobs::ReadImport::MOST_PLACES", 30)
    import = deliver(@second, {"t.zip" => many[31]})
    expect(
      [
        import["state"],
        import["task"]["message"]
      ]
    ).to match(["open", /holds 1 things in 31 sets with 31 places/])
  end

  it "waits for a lock no longer than a person would, and says so" do
    Studio::M::Record.connection.execute("SET LOCAL lock_timeout = 50")
    other = PG.connect(ENV.fetch("DATABASE_URL"))
    other.exec("BEGIN; LOCK TABLE tags IN ACCESS EXCLUSIVE MODE")
    expect(
      [
        call(:get, "#{library}/tags")["error"],
        status
      ]
    ).to match([/Somebody is changing the same things at this moment.*Nothing was changed by you/, 409])
  ensure
    other&.close
    Studio::M::Record.connection.execute("ROLLBACK")
    Studio::M::Record.connection.execute("BEGIN")
  end

  it "begins no more of one person's requests than leave room for others" do
    room = Fobrel::App::Room
    person = Studio::M::Person.find_by!(login: "maren").id
    held = Array.new(room::KINDS[:any].each) { room.here.enter(:any, person) }
    expect(
      [
        call(:get, "#{library}/tags")["error"],
        status,
        last_response.headers["Retry-After"]
      ]
    ).to match([/asked for so much at once that this was not begun/, 503, "1"])
    sign_in("tove")
    expect(call(:get, "#{library}/tags")).to have_key("tags")
  ensure
    held.each { room.here.leave(_1) }
  end

  it "says in a sentence what numbers and times no program reads" do
    document = Fobrel::Core::Preset::Preset.build(
      "Fog",
      {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 4}}}
    ).to_h
    plan = deliver(
      @second,
      {"big.json" => JSON.generate(document.merge("unknown" => 10**5000)), "good.json" => JSON.generate(document)}
    )
    expect(
      plan["items"].map {
        _1.values_at(
          "state",
          "sentence"
        )
      }
    ).to contain_exactly(["unreadable", /a number beyond what programs can read/], ["new", ""])
  end

  it "refuses frames that are more than they look before it unpacks them" do
    frame = Vips::Image.black(2000, 2000).copy(interpretation: :b_w)
    long = Array.new(40) {
      frame
    }.inject { |one, two|
      one.join(
        two,
        :vertical
      )
    }.mutate { |m| m.set_type!(GObject::GINT_TYPE, "page-height", 2000) }.tiffsave_buffer(compression: :deflate)
    plan = deliver(@second, {"long.tif" => long})
    expect(
      plan["items"].map {
        _1["sentence"]
      }
    ).to match([/holds 40 pictures of 2000 × 2000 pixels, more than 120 million in all/])
  end

  # PostgreSQL 15, table 13.3: a key share, as an insert with a key takes it, goes beside this lock.
  it "holds a library so that others may add to it" do
    asked = []
    listening = ActiveSupport::Notifications.subscribe("sql.active_record") { |*, event| asked << event[:sql] }
    @second.hold
    expect(asked.last).to end_with("FOR NO KEY UPDATE")
  ensure
    ActiveSupport::Notifications.unsubscribe(listening)
  end
end

# The gallery outside is not ours: it may be silent, drip, or say anything.
RSpec.describe "an external gallery that behaves badly", :api do
  # Answers each request with what the block writes to the connection.
  def gallery
    server = TCPServer.new("127.0.0.1", 0)
    thread = Thread.new do
      loop do
        Thread.new(server.accept) do |client|
          client.gets("\r\n\r\n")
          yield client
        rescue SystemCallError, IOError
          nil # whoever asked has gone
        ensure
          client.close
        end
      end
    end
    before = ENV["GALLERY_URL"]
    ENV["GALLERY_URL"] = "http://127.0.0.1:#{server.addr[1]}"
    @stop = lambda do
      ENV["GALLERY_URL"] = before
      thread.kill
      server.close
    end
  end

  before do
    stub_const("Fobrel::Gallery::External::LOOK_SECONDS", 1)
    sign_in("maren")
    Studio::M::GalleryToken.create!(person: Studio::M::Person.find_by!(login: "maren"), token: "x")
  end

  after { @stop&.call }

  def ok(client, body)
    client.write(
      "HTTP/1.1 200 OK\r\nContent-Type: application/json\r\nContent-Length: #{body.bytesize}\r\nConnection: " \
        "close\r\n\r\n#{body}"
    )
  end

  def ask
    before = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    Studio::M::GalleryLook.update_all(silent_at: nil)
    said = call(:post, "/api/gallery/look", {q: ""})["problem"]
    [said, Process.clock_gettime(Process::CLOCK_MONOTONIC) - before]
  end

  it "is waited for a moment, whether it is silent or drips" do
    gallery { |_client| sleep 20 }
    expect(ask).to match([/did not answer/, be < 6])
    @stop.call
    gallery do |client|
      client.write("HTTP/1.1 200 OK\r\nContent-Length: 100000\r\n\r\n")
      100.times { client.write("x") && sleep(0.1) }
    end
    expect(ask).to match([/did not answer/, be < 8])
  end

  it "is told apart from a list, whatever it says, and never read without end" do
    ["no JSON", "[1, 2]", '{"packages": 7}', "null", "[#{"[" * 200}#{"]" * 200}]"].each do |body|
      gallery { |client| ok(client, body) }
      expect(
        call(
          :post,
          "/api/gallery/look",
          {q: ""}
        )
      ).to match(
        a_hash_including(
          "packages" => [],
          "problem" => (body == "[1, 2]") ? nil : /not a list of packages/
        )
      )
      @stop.call
    end
    gallery { |client| ok(client, "[\"#{"x" * 6_000_000}\"]") }
    expect(ask.first).to match(/not a list of packages/)
  end

  it "is left alone for a while after it was silent, and asked for one thing of each person" do
    gallery { |_client| sleep 20 }
    expect(ask).to match([/did not answer/, be < 6])
    said = call(:post, "/api/gallery/look", {q: "stone"})
    expect(
      [
        said["problem"],
        Studio::M::GalleryLook.pluck(:query)
      ]
    ).to match([/did not answer, though it was asked a moment ago/, ["stone"]])
  end

  it "is asked by nobody but a job" do
    Que::Job.run_synchronously = false
    gallery { |_client| raise "it was asked" }
    expect(call(:post, "/api/gallery/look", {q: "x"})).to match(a_hash_including("asking" => true, "packages" => []))
    expect(call(:put, "/api/gallery/token", {token: "other"})["asking"]).to be(true)
    expect(call(:get, "/api/gallery")["asking"]).to be(true)
    Studio::M::GalleryLook.update_all(asked_at: 2.minutes.ago)
    expect(call(:get, "/api/gallery")["asking"]).to be(false)
  ensure
    Que::Job.run_synchronously = true
  end
end
