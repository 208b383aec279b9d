# frozen_string_literal: true

require "support/api"

# What comes from outside, at the door: nothing half-kept, always a sentence, never a hang.
RSpec.describe "hostile input", :api do
  before { sign_in("maren") }

  def counts
    [
      Studio::M::Preset,
      Studio::M::Version,
      Studio::M::Asset,
      Studio::M::Draft,
      Studio::M::Tag,
      Studio::M::BrushSet,
      Studio::M::Desk,
      Studio::M::HistoryEntry
    ].map(&:count)
  end

  def zip(files)
    Zip::OutputStream.write_buffer(StringIO.new("".b)) { |out|
      files.each { |path, bytes|
        out.put_next_entry(path) && out.write(bytes)
      }
    }.string
  end

  let(:home) { "/api/libraries/#{@first.id}" }
  let(:preset) { @first.presets.first }

  it "refuses packages built to harm, and keeps nothing of them" do
    payload = {"bundle.json" => "{}", "presets/x.json" => "{}"}
    hostile = {
      "a path that climbs out" => zip({"../evil" => "x"}).tr("~", "."),
      "a bomb" => zip({"bagit.txt" => "x", "data/zeros" => "\0" * 30_000_000}),
      "a bag in name only" => zip(Fobrel::Core::Package::Writer.bag(payload)),
      "deep JSON" => zip(Fobrel::Core::Package::Writer.bag({"bundle.json" => "[" * 500 + "]" * 500})),
      "a preset that calls itself another" => zip(
        Fobrel::Core::Package::Writer.bag(
          {"presets/#{SecureRandom.uuid}.json" => JSON.generate(preset.current_version.document)}
        )
      ),
      "names that differ in case only" => zip({"bagit.txt" => "a", "BAGIT.TXT" => "b"})
    }
    before = counts
    hostile.each do |what, bytes|
      lines = import_brushes(@first, bytes, file: "gift.zip")["report"]["lines"]
      expect(
        [
          what,
          lines.map {
            _1["decision"]
          }.uniq,
          lines.first["sentence"]
        ]
      ).to match(
        [
          what,
          ["leave"],
          /gift\.zip .*(Nothing was kept|left aside)|This preset cannot be used/
        ]
      )
    end
    expect(counts).to eq(before)
  end

  it "refuses ill-formed requests with a sentence, on every route that takes a body" do
    before = counts
    routes = [
      "#{home}/taggings",
      "#{home}/sets",
      "#{home}/reset",
      "#{home}/exports",
      "#{home}/imports",
      "#{home}/strip",
      "#{home}/desks",
      "/api/presets/#{preset.id}/versions",
      "/api/presets/#{preset.id}/variations"
    ]
    bodies = [
      "",
      "{",
      "[]",
      "null",
      "\xFF",
      "[" * 200,
      '{"preset_ids": "all"}',
      '{"preset_ids": [1.5]}',
      '{"preset_ids": [99999999999999999999]}',
      '{"name": 5, "tag": {}, "document": 7}'
    ]
    routes.product(bodies).each do |path, text|
      header "Host", "localhost"
      header "X-CSRF-Token", @token
      header "Content-Type", "application/json"
      post path, text
      next if path.end_with?("/reset") && last_response.status == 422
      expect([path, text, last_response.status]).to match([path, text, be_between(400, 422)])
      expect(JSON.parse(last_response.body)["error"]).to match(/\S+ .*\.\z/)
    end
    expect(counts).to eq(before)
  end

  it "takes odd names as they are, and none that are empty or endless" do
    names = ["帆船 ⛵", "<b>Sail</b>", "'; DROP TABLE presets; --", "a" * 100]
    names.each { |name| expect(call(:post, "#{home}/sets", {name:})["name"]).to eq(name) }
    ["", "   ", "a" * 101].each { |name|
      expect(call(:post, "#{home}/sets", {name:}).fetch("error")).to match(/Nothing was saved/)
    }
    expect(call(:get, "#{home}/sets")["sets"].map { _1["name"] }).to match_array(names)
  end

  it "gives two desks of one name folders of their own, and no desk a folder elsewhere" do
    folders = ["Desk", "../../etc", "desk"].map { |name| call(:post, "#{home}/desks", {name:})["folder"] }
    expect(folders.compact).to all(match(/\A[a-z0-9][a-z0-9-]*\z/))
    expect(folders.compact.uniq.size).to eq(folders.compact.size)
  end

  it "finds nothing under ids that are none" do
    ["0", "-1", "1e9", "x", "99999999999999999999", "1;2"].each do |id|
      call(:get, "/api/presets/#{id}")
      expect([id, status]).to match([id, be_between(400, 404)])
    end
    call(:get, "/api/strips/#{"f" * 64}/list.png")
    expect(status).to eq(404)
    call(:get, "/api/nowhere")
    expect(status).to eq(404)
  end

  it "shows a draft's strip to the one whose draft it is, and to nobody else" do
    document = preset.current_version.document.merge("stroke" => {"spacing" => 0.31})
    call(:put, "/api/presets/#{preset.id}/draft", {document:})
    mine = call(:get, "/api/presets/#{preset.id}")["draft"]["fingerprint"]
    expect(call(:get, "/api/strips/#{mine}/list.png")[0, 4]).to eq("\x89PNG".b)
    sign_in("tove")
    call(:get, "/api/strips/#{mine}/list.png")
    expect(status).to eq(404)
  end

  it "names no machine, path or class in an error" do
    allow(Fobrel::Actions::TagPresets).to receive(:call).and_raise(RuntimeError, "secret at #{__FILE__}")
    allow_any_instance_of(Fobrel::Api::Application).to receive(:warn)
    answer = call(:post, "#{home}/taggings", {tag: "x", preset_ids: [preset.id]})
    expect([status, answer["error"]]).to match([500, /\ASomething went wrong on our side/])
    expect(last_response.body).not_to match(/secret|RuntimeError|\.rb/)
  end
end
