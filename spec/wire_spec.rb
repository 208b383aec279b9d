# frozen_string_literal: true

require "support/studio"
require "support/running"
require "json"

# What arrives at the socket, before there is a request to speak of: bodies of any size, senders that take their time,
# and what is no HTTP. RFC 9110 and 9112 say what may be sent.
RSpec.describe "on the wire" do
  before(:context) do
    Studio.clear
    @first, @second = Studio.build
    @server = Running.new({"HEAD_SECONDS" => "1", "BODY_SECONDS" => "1"})
    @server.start
    @cookies = %w[maren ilse].to_h { |login| [login, cookie(login)] }
  end

  after(:context) { @server.stop }

  def port = @server.address[/\d+\z/].to_i

  def ask(head, body = "", wait: 10)
    TCPSocket.open("127.0.0.1", port) do |socket|
      socket.write(head.gsub("\n", "\r\n") + "\r\n")
      socket.write(body)
      socket.wait_readable(wait) ? answer_from(socket) : "nothing"
    rescue EOFError, Errno::ECONNRESET, Errno::EPIPE
      "closed"
    end
  end

  # Head and body, which may come in two pieces.
  def answer_from(socket)
    answer = socket.readpartial(65_536)
    length = answer[/^content-length: (\d+)/i, 1].to_i
    answer << socket.readpartial(65_536) while answer.split("\r\n\r\n", 2)[1].to_s.bytesize < length
    answer
  end

  def cookie(login)
    data = JSON.generate({login:, password: Studio::PASSWORD})
    session = ask("GET /api/session HTTP/1.1\nHost: localhost\n")
    given = session[/fobrel\.session=[^;]+/]
    token = session[/"csrf":"([^"]+)"/, 1]
    head = "POST /api/session HTTP/1.1\nHost: localhost\nCookie: #{given}\nX-CSRF-Token: #{token}\n" \
      "Content-Type: application/json\nContent-Length: #{data.bytesize}\n"
    ask(head, data)[/fobrel\.session=[^;]+/]
  end

  def post(path, length:, login: nil, verb: "POST")
    cookie = login ? "Cookie: #{@cookies.fetch(login)}\n" : ""
    ask("#{verb} #{path} HTTP/1.1\nHost: localhost\n#{cookie}Content-Length: #{length}\n", "x" * 20_000)
  end

  # Bytes of bodies that the server has put aside: its own files without a name.
  def spooled
    pids = [@server.pid, *`pgrep -P #{@server.pid}`.split.map(&:to_i)]
    pids.sum do |pid|
      Dir["/proc/#{pid}/fd/*"].sum do |fd|
        File.readlink(fd).match?(/puma.*deleted/) ? File.stat(fd).size : 0
      rescue Errno::ENOENT
        0
      end
    end
  end

  # An answer of ours: its status; no trace of the code, no cookie, and the headers that every answer has.
  def plain(answer, secret: nil)
    aggregate_failures(answer.lines.first) do
      expect(answer).to match(%r{\AHTTP/1\.[01] \d{3}})
      expect(answer).not_to match(/\.rb|Error\b|Puma|gems|backtrace/)
      expect(answer.downcase).to include("x-content-type-options: nosniff", "content-security-policy:", "x-request-id:")
      expect(answer.downcase).to include("cache-control: no-store")
      expect(answer.downcase).not_to include("set-cookie")
      expect(answer).not_to include(secret) if secret
      expect(JSON.parse(answer[/\{.*\z/m])["error"]).to end_with(".").or include("number")
    end
    answer[/\AHTTP\S+ (\d+)/, 1].to_i
  end

  def log = File.read(File.join(ENV.fetch("FOBREL_VAR"), "log/fobrel.jsonl")) + @server.log

  it "refuses a large body by its head: of nobody, of whoever may not send it, of more than the route takes" do
    gigabyte = 1024**3
    import = Studio::M::Import.create!(
      library_id: @first.id, person: Studio::M::Person.find_by!(login: "maren"), name: "a", source: "dropped"
    )
    path = "/api/imports/#{import.id}/files?name=a"
    expect(plain(post("/api/session", length: 100 * gigabyte))).to eq(413)
    expect(plain(post(path, length: gigabyte, verb: "PUT"))).to eq(401)
    expect(plain(post("/api/nowhere", length: gigabyte, login: "maren"))).to eq(413)
    expect(plain(post(path, length: gigabyte, login: "ilse", verb: "PUT"))).to eq(403)
    expect(plain(post(path, length: gigabyte + 1, login: "maren", verb: "PUT"))).to eq(413)
    expect(plain(post("/api/libraries/#{@first.id}/pad", length: 9 * 1024**2, login: "maren"))).to eq(413)
    token = Studio::M::AccessToken.issue(Studio::M::Person.find_by!(login: "maren"), "box", scope: "read").last
    bearer = "PUT #{path} HTTP/1.1\nHost: localhost\nContent-Length: #{gigabyte}\nAuthorization: Bearer "
    expect(plain(ask("#{bearer}#{token}\n", "x" * 20_000), secret: token)).to eq(403)
    expect(plain(ask("#{bearer}fobrel_made_up\n", "x" * 20_000))).to eq(401)
    expect(spooled).to eq(0)
  end

  it "asks before a sender is told to go on (RFC 9110, 10.1.1)" do
    head = "POST /api/session HTTP/1.1\nHost: localhost\nExpect: 100-continue\nContent-Length: 9999999\n"
    expect(ask(head)).to start_with("HTTP/1.1 413")
  end

  it "stops a body of unknown length where the route's limit is" do
    head = "POST /api/session HTTP/1.1\nHost: localhost\nTransfer-Encoding: chunked\n"
    expect(plain(ask(head, "4e20\r\n#{"x" * 20_000}\r\n"))).to eq(413)
  end

  it "counts what is arriving over all connections, and lets go of it when a sender leaves" do
    import = Studio::M::Import.create!(
      library_id: @first.id, person: Studio::M::Person.find_by!(login: "maren"), name: "a", source: "dropped"
    )
    head = "PUT /api/imports/#{import.id}/files?name=a HTTP/1.1\nHost: localhost\nCookie: #{@cookies["maren"]}\n" \
      "Content-Length: #{1024**3}\n"
    incoming = Fobrel::IncomingBytes.new(File.join(ENV.fetch("FOBREL_VAR"), "incoming"))
    senders = Array.new(2) {
      TCPSocket.open("127.0.0.1", port).tap { |one|
        one.write("#{head.gsub("\n", "\r\n")}\r\nx")
      }
    }
    eventually { expect(incoming.total).to eq(2 * 1024**3) }
    expect(plain(ask(head, "x"))).to eq(503)
    senders.each(&:close)
    eventually { expect(incoming.total).to eq(0) }
    expect(spooled).to eq(0)
  end

  it "ends who sends a head or a body by drops, however steadily" do
    started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    drops = {
      "a head" => "GET /healthz HTTP/1.1\r\nHost: localhost\r\n",
      "a body" => "POST /api/session HTTP/1.1\r\nHost: localhost\r\nContent-Length: 500\r\n\r\n"
    }
    ended = drops.transform_values do |beginning|
      TCPSocket.open("127.0.0.1", port) do |socket|
        socket.write(beginning)
        100.times.find { socket.wait_readable(0.1) || (socket.write("a") && nil) }
      rescue Errno::EPIPE, Errno::ECONNRESET
        true
      end
    end
    expect(ended.values).to all(be_truthy)
    expect(Process.clock_gettime(Process::CLOCK_MONOTONIC) - started).to be < 12
  end

  describe "a line that a page listens on" do
    def listen(cookie)
      TCPSocket.open("127.0.0.1", port).tap do |socket|
        socket.write("GET /api/libraries/#{@first.id}/live HTTP/1.1\r\nHost: localhost\r\nCookie: #{cookie}\r\n\r\n")
        expect(socket.readpartial(4096)).to include("text/event-stream")
      end
    end

    # Whether it ends within the five seconds that are promised.
    def ends?(socket)
      till = Process.clock_gettime(Process::CLOCK_MONOTONIC) + 5
      loop do
        left = till - Process.clock_gettime(Process::CLOCK_MONOTONIC)
        return false unless left.positive? && socket.wait_readable(left)
        socket.readpartial(4096)
      end
    rescue EOFError, Errno::ECONNRESET
      true
    end

    let(:tove) { Studio::M::Person.find_by!(login: "tove") }
    let(:maren) { Studio::M::Person.find_by!(login: "maren") }

    it "ends with the session, the membership, the role and the account, and with nobody else's" do
      other = listen(@cookies["maren"])
      changes = [
        -> { tove.sign_ins.end_all },
        -> { Fobrel::Actions::ChangeRole.call(library: @first, person: maren, member: tove.id, role: "guest") },
        -> { Fobrel::Actions::LeaveLibrary.call(library: @first, person: maren, member: tove.id, drafts_to: nil) }
      ]
      changes.each do |change|
        line = listen(cookie("tove"))
        change.call
        expect(ends?(line)).to be(true)
      end
      line = listen(cookie("ilse"))
      ilse = Studio::M::Person.find_by!(login: "ilse")
      Fobrel::Actions::ChangePerson.call(person: maren, other: ilse, wish: {"closed" => true})
      expect(ends?(line)).to be(true)
      expect(other.wait_readable(0.2) && other.readpartial(4096)).not_to be_nil # news of the changes, and no end
      other.close
    ensure
      Studio::M::Person.update_all(closed_at: nil)
      @first.memberships.find_or_create_by!(person: tove) { |one| one.role = "artist" }.update!(role: "artist")
    end
  end

  secret = "fobrel.session=a-secret-of-mine"
  {
    "a bad chunk" => ["POST /api/session HTTP/1.1\nHost: localhost\nTransfer-Encoding: chunked\n", "zz\r\n"],
    "two lengths" => ["POST /api/session HTTP/1.1\nHost: localhost\nContent-Length: 1\nContent-Length: 2\n", "ab"],
    "a length that is none" => ["POST /api/session HTTP/1.1\nHost: localhost\nContent-Length: -4\n", ""],
    "a method that is none" => ["B@D / HTTP/1.1\nHost: localhost\n", ""],
    "an unknown method" => ["BREW / HTTP/1.1\nHost: localhost\n", ""],
    "a head above 80 KB" => ["GET / HTTP/1.1\nHost: localhost\nX-Long: #{"a" * 90_000}\n", ""],
    "a NUL in the path" => ["GET /api/\0x HTTP/1.1\nHost: localhost\n", ""],
    "a coded NUL in the path" => ["GET /api/%00x HTTP/1.1\nHost: localhost\n", ""],
    "raw bytes in a parameter's name" => ["GET /api/session?\xFF\xFE[a]=1&\xFF=2 HTTP/1.1\nHost: localhost\n".b, ""],
    "coded bytes in a parameter's name" => [
      "GET /api/session?%FF%FE[x]=1&a[]=2&a[b]=3 HTTP/1.1\nHost: localhost\n",
      ""
],
    "a control character in a header" => ["GET /api/session HTTP/1.1\nHost: localhost\nX-Odd: a\x01b\x7f\n", ""],
    "no host" => ["GET /api/session HTTP/1.1\n", ""],
    "no HTTP" => ["\x16\x03\x01\x02\x00", "\x01\x00"]
  }.each do |what, (head, body)|
    it "answers #{what} with a sentence, and tells nobody what was sent" do
      before = log.size
      cookie = "Cookie: #{secret}\n".b
      head = head.b.sub("Host: localhost\n".b) { |host| host + cookie }
      answer = ask(head, body)
      unless answer == "closed" || what == "a control character in a header"
        expect(
          plain(
            answer,
            secret:
          )
        ).to be_between(400, 501)
      end
      expect(log[before..]).not_to include("a-secret-of-mine")
    end
  end

  # Requests that were right, with bytes put in, taken out and turned round. bin/fuzz sends more of them.
  it "answers whatever comes, and goes on answering others" do
    count = Integer(ENV.fetch("FUZZ", 300))
    chance = Random.new(Integer(ENV.fetch("SEED", 17)))
    cookie = "Cookie: #{@cookies["maren"]}\r\n"
    whole = [
      "GET /api/libraries/#{@first.id}/brushes?q=fog&limit=3 HTTP/1.1\r\nHost: localhost\r\n#{cookie}\r\n",
      "POST /api/session HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 13\r\n\r\n" \
        '{"login":"x"}',
      "PUT /api/presets/1/favourite HTTP/1.1\r\nHost: localhost\r\n#{cookie}Transfer-Encoding: chunked\r\n\r\n" \
        "3\r\n{}\n\r\n0\r\n\r\n",
      "GET /assets/none.js HTTP/1.0\r\nRange: bytes=0-1,2-\r\nAccept-Encoding: br;q=x\r\nHost: localhost\r\n\r\n"
    ]
    bytes = [
      "\0",
      "\r",
      "\n",
      "\r\n",
      "\x80\xFF",
      "%00",
      "%",
      " ",
      ":",
      ";",
      "\t",
      "a" * 5000,
      "HTTP/9.9",
      "../",
      "\x1B[2J"
    ].map(&:b)
    before = log.size
    wrong = Array.new(count) { |index|
      text = whole.sample(random: chance).b
      (1 + chance.rand(4)).times do
        at = chance.rand(text.bytesize)
        text = [text[0...at], bytes.sample(random: chance), text[(at + chance.rand(3))..]].join
      end
      answer = TCPSocket.open("127.0.0.1", port) do |socket|
        socket.write(text)
        socket.close_write
        socket.wait_readable(5) ? socket.readpartial(4096) : ""
      rescue SystemCallError, EOFError
        ""
      end
      [index, text, answer] if answer.match?(%r{\AHTTP/1\.[01] 5(?!01)|\.rb[:\d]|backtrace})
    }.compact
    expect(wrong).to eq([])
    expect(log[before..]).not_to include(@cookies["maren"].split("=", 2).last[0, 40])
    expect(ask("GET /healthz HTTP/1.1\nHost: localhost\n")).to start_with("HTTP/1.1 200")
  end

  def eventually(seconds = 5)
    ends = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
    begin
      yield
    rescue RSpec::Expectations::ExpectationNotMetError
      raise if Process.clock_gettime(Process::CLOCK_MONOTONIC) > ends
      Thread.pass
      retry
    end
  end
end
