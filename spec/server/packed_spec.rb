# frozen_string_literal: true

require "support/api"
require "zlib"

# How much goes over the wire (RFC 9110, sections 8.4, 8.8.3 and 13.1.2).
RSpec.describe "answers on their way", :api do
  def ask(path, **headers)
    header "Host", "localhost"
    headers.each { |name, value| header(name.to_s.tr("_", "-"), value) }
    get path
    last_response
  end

  let(:asset) { "/assets/#{File.basename(Dir[File.join(Fobrel::App::DIST, "assets/index-*.js")].first)}" }

  it "hands the page's files out as they were packed, to who takes that" do
    plain = ask(asset)
    {"br, gzip" => "br", "gzip;q=0.5, br;q=0" => "gzip", "identity" => nil}.each do |taken, packed|
      answer = ask(asset, Accept_Encoding: taken)
      expect(
        answer.headers.values_at(
          "content-encoding",
          "content-type"
        )
      ).to eq([packed, plain.headers["content-type"]])
      expect(answer.headers["vary"]).to include("Accept-Encoding")
      expect(answer.body.bytesize).to be < plain.body.bytesize / 2 if packed
      same = packed != "gzip" || Zlib.gunzip(answer.body) == plain.body.b
      expect(same).to be(true)
    end
  end

  it "packs its own long answers, and says when nothing changed" do
    sign_in("maren")
    brushes = "/api/libraries/#{@first.id}/brushes"
    plain = ask(brushes)
    packed = ask(brushes, Accept_Encoding: "gzip")
    expect(Zlib.gunzip(packed.body)).to eq(plain.body)
    expect(ask("/api/presets/#{@first.presets.first.id}/state").headers["content-encoding"]).to be_nil
    expect(ask(brushes, If_None_Match: packed.headers["etag"]).status).to eq(304)
    @first.presets.first.update_columns(name: "Another")
    expect(ask(brushes, If_None_Match: packed.headers["etag"]).status).to eq(200)
  end

  it "lets no browser keep what a deed answered, nor what belongs to a session" do
    sign_in("maren")
    call(:post, "/api/libraries/#{@first.id}/taggings", {tag: "x", preset_ids: [@first.presets.first.id]})
    deed = last_response.headers["cache-control"]
    expect([deed, ask("/api/session").headers["cache-control"]]).to eq(%w[no-store no-store])
    expect(ask("/api/libraries/#{@first.id}/brushes").headers["cache-control"]).to eq("private, no-cache")
  end
end
