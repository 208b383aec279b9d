# frozen_string_literal: true

require "support/api"
require "socket"

# What leaves Fobrel with words and pictures of others in it: sheets, kits, texts, mail; and what a gallery may answer.
RSpec.describe "hostile content on its way out", :api do
  names = [
    "<b>Fog</b> <page> (1) \\) >> endobj",
    "=cmd|' /C calc'!A0",
    "../../etc/passwd",
    "{{ preset.name }}{% raw %}",
    "Fog\u202E\u200Fgof",
    "W" * 60,
    "帆 ß 🖌 \u0301"
  ].freeze

  before do
    sign_in("maren")
    @brushes = names.zip(@first.presets.in_order).map do |name, preset|
      value = preset.current_version.value
      about = value["about"].merge("notes" => "#{name}\r\nBcc: all@example.org\n.\n", "author" => name)
      changed = Fobrel::Core::Preset::Preset.restore(value.to_h.merge("name" => name, "about" => about))
      Fobrel::Actions::AddVersion.call(preset:, value: changed, person: Studio::M::Person.find_by!(login: "maren"))
      preset.reload
    end
  end

  let(:library) { "/api/libraries/#{@first.id}" }

  def export(kind, **options)
    exported(@first, {kind:, name: "<b>Fog</b> (1) \\) >> endobj", of: {preset_ids: @brushes.map(&:id)}, options:})
  end

  it "makes a sheet of as many pages, with one title, whatever the names say" do
    pdf = export("proof", columns: 2).b
    expect(pdf).to start_with("%PDF")
    expect(Vips::Image.pdfload_buffer(pdf, dpi: 30).get("n-pages")).to eq(1)
    expect(pdf.scan("/JavaScript").size + pdf.scan("/Launch").size + pdf.scan("/URI").size).to eq(0)
    png = export("proof", format: "png", columns: 2).b
    expect(unzipped(png).keys).to eq(["proof-01.png"])
  end

  it "makes a kit whose files lie within it, whose table runs nothing, and whose pictures are pictures only" do
    # A picture of its own colours with something behind its end.
    picture = (Vips::Image.black(8, 8, bands: 4) + [200, 30, 30, 255]).cast(:uchar)
      .copy(interpretation: :srgb).pngsave_buffer
    hostile = "#{picture}<script>alert(1)</script>"
    sum = Studio::M::Asset.keep(hostile, "png") && Fobrel::Core::Sum.reference_to(hostile)
    value = Fobrel::Core::Preset::Preset.build(
      "Own",
      {
        "tip" => {
          "form" => {"kind" => "picture", "frames" => [sum], "colours" => "own"},
          "size" => {"base" => 8}
        }
      }
    )
    own = Fobrel::Actions::CreatePreset.call(
      library: @first,
      value:,
      person: Studio::M::Person.find_by!(login: "maren")
    )
    @brushes << own
    files = unzipped(export("kit").b)
    expect(files.keys.grep(%r{\.\.|\A/|\\|[\u0000-\u001F]})).to eq([])
    cells = CSV.parse(files["settings.csv"].dup.force_encoding("UTF-8")).flatten.compact
    expect(cells.grep(/\A[=+@]/)).to eq([])
    expect(files.values.join.b).not_to include("<script>alert(1)")
    inventory = CSV.parse(export("inventory")).flatten.compact
    expect(inventory.grep(/\A[=+@\t\r]/)).to eq([])
  end

  it "writes texts that are data to a template, in files that are named by it and lie nowhere else" do
    export_template = call(
      :post,
      "#{library}/export-templates",
      {name: "Each", scope: "each", file: "{{ preset.name }}.txt", body: "{{ preset.name }}|{{ preset.notes | csv }}"}
    )
    files = unzipped(export("export_template", export_template: export_template["id"]).b)
    expect(files.size).to eq(names.size)
    expect(files.keys.grep(%r{\.\.|/|\\|[\u0000-\u001F]})).to eq([])
    text = files.values.map { |one| one.dup.force_encoding("UTF-8") }.find { |one| one.include?("raw") }
    expect(text).to include("{{ preset.name }}{% raw %}") # written, not run
  end

  it "sends no line of somebody else's in a mail" do
    tove = Studio::M::Person.find_by!(login: "tove")
    text = "Hello\r\nBcc: all@example.org\r\n\r\n.\r\n\u202Ereversed \e[2J"
    Studio::M::Notice.tell([tove], library: @first, kind: "mention", text:, path: "/inbox")
    path = Fobrel::Reports::Summary.new(tove, Date.new(2026, 12, 1)).write
    mail = Mail.read(path)
    expect([mail.to, mail.bcc, mail.header["Bcc"]]).to eq([["tove@studio.invalid"], nil, nil])
    line = mail.body.decoded.force_encoding("UTF-8").lines.find { |one| one.start_with?("- Hello") }
    expect(line.strip).to eq("- Hello Bcc: all@example.org . reversed [2J")
    expect([File.stat(path).mode & 0o777, File.stat(File.dirname(path)).mode & 0o777]).to eq([0o600, 0o700])
  ensure
    FileUtils.rm_rf(Fobrel::Reports::Summary.outbox)
  end

  describe "of a gallery" do
    # Answers each request with one text, as HTTP or not.
    def answering(text)
      server = TCPServer.new("127.0.0.1", 0)
      thread = Thread.new do
        loop do
          socket = server.accept
          socket.readpartial(4096)
          socket.write(text)
          socket.close
        rescue SystemCallError, IOError
          break if server.closed?
        end
      end
      stub_const("ENV", ENV.to_h.merge("GALLERY_URL" => "http://127.0.0.1:#{server.addr[1]}"))
      yield
    ensure
      server&.close
      thread&.kill
    end

    def list(body) = "HTTP/1.1 200 OK\r\ncontent-length: #{body.bytesize}\r\nconnection: close\r\n\r\n#{body}"

    let(:outside) { Fobrel::Gallery::External.new("a-token") }

    it "takes texts and numbers of a length, and no id that is more than a name" do
      odd = [
        {
          "id" => "ok",
          "title" => ["x"],
          "size" => [1],
          "tags" => {"a" => 1},
          "author" => 3,
          "description" => "a\0\u202Eb\nc"
        },
        {"id" => "x\r\nHost: evil", "title" => "t"},
        {"id" => "../../etc", "title" => "t"},
        {"id" => 7},
        [],
        "x",
        nil,
        {"id" => "big", "title" => "T" * 9000, "size" => 10**30}
      ]
      found = answering(list(JSON.generate(odd))) { outside.list }
      expect(found.map { |one| one["id"] }).to eq(%w[ok big])
      expect(found[0].values_at("title", "size", "tags", "author", "description")).to eq(["", 0, [], "", "ab c"])
      expect([found[1]["title"].size, found[1]["size"]]).to eq([200, 2**53])
    end

    it "takes nothing that is larger than may come, whatever it says of itself" do
      package = {"id" => "big", "title" => "Big", "size" => 2**40, "sha256" => "0" * 64}
      into = Tempfile.new("gallery", binmode: true)
      expect {
        answering(list(JSON.generate([package]))) { outside.download("big", into:) }
      }.to raise_error(Fobrel::Gallery::External::Failed, /larger than may come/)
      expect(into.size).to eq(0)
    end

    ["[[[[[[[[[[[[[[[[", "{\"packages\": 3}", "<html>", "null"].each do |body|
      it "says so where it answers #{body[0, 12]}" do
        answering(list(body)) {
          expect {
            outside.list
          }.to raise_error(Fobrel::Gallery::External::Failed, /not a list of packages/)
        }
      end
    end
  end

  def unzipped(bytes)
    files = {}
    Zip::InputStream.open(StringIO.new(bytes)) do |zip|
      while (entry = zip.get_next_entry)
        files[entry.name.dup.force_encoding("UTF-8")] = zip.read.to_s
      end
    end
    files
  end
end
