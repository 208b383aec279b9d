# frozen_string_literal: true

require "support/api"

RSpec.describe "an export that takes long", :api do
  before { sign_in("maren") }

  let(:exports) { "/api/libraries/#{@first.id}/exports" }
  let(:wish) { {kind: "package", name: "Whole", of: {library: true}, options: {}} }

  def bytes = last_response.body

  it "is written as long work; its file waits, the same as it would have been, and is fetched again" do
    post(exports, JSON.generate(wish), "HTTP_X_CSRF_TOKEN" => @token, "CONTENT_TYPE" => "application/json")
    at_once = bytes
    expect(at_once[0, 4]).to eq("PK\x03\x04".b)
    allow(Studio::M::Export).to receive(:long?).and_return(true)
    task = call(:post, exports, wish)["begun"]
    expect(status).to eq(202)
    done = call(:get, "/api/tasks/#{task["id"]}")
    expect(done.values_at("state", "message")).to match(["done", /whole\.fobrel\.zip.*waits in Exports for 7 days/i])
    export = call(:get, exports)["exports"].first
    expect(export.values_at("id", "size")).to eq([done["result"]["export"], at_once.bytesize])
    expect(Time.parse(export["waits_until"])).to be_within(1.minute).of(7.days.from_now)
    2.times { get("/api/exports/#{export["id"]}/file") && expect(bytes == at_once).to(be(true)) }
    expect(last_response.headers["content-disposition"]).to include("whole.fobrel.zip")
    expect(call(:post, "/api/exports/#{export["id"]}/repeat", {})["begun"]["state"]).to eq("done")
  end

  it "is for a guest too, and for nobody of another library; its file goes after a week" do
    allow(Studio::M::Export).to receive(:long?).and_return(true)
    sign_in("ilse")
    task = call(:post, exports, {**wish, kind: "inventory"})["begun"]
    export = call(:get, "/api/tasks/#{task["id"]}")["result"]["export"]
    get("/api/exports/#{export}/file")
    expect(CSV.parse(bytes, headers: true).size).to eq(@first.presets.shown.count)
    stranger = Studio::M::Person.create!(login: "far", name: "Far", password: Studio::PASSWORD)
    sign_in(stranger.login)
    call(:get, "/api/exports/#{export}/file")
    expect(status).to eq(404)
    Studio::M::Export.update_all(created_at: 8.days.ago)
    Studio::M::Cleaning.create!.run
    sign_in("ilse")
    expect(
      [
        call(:get, "/api/exports/#{export}/file")["error"],
        status
      ]
    ).to match([/not kept any more. Export it again/, 404])
    expect(call(:get, exports)["exports"].first["waits_until"]).to be_nil
  end

  it "is told from a short one by how many brushes there are, and how many of them are painted" do
    presets = @first.presets.shown.pluck(:fingerprint)
    long = ->(kind, list) { Studio::M::Export.long?(kind, list) }
    few = [long["package", presets], long["inventory", presets], long["proof", presets.first(4)]]
    expect(few).to eq([false, false, false])
    many = presets * 40
    expect(
      [
        long["package", many],
        long["proof", many],
        long["export_template", presets * 20]
      ]
    ).to eq([true, true, false])
    Studio::M::KeptStrip.insert_all(
      presets.map {
        {fingerprint: _1, shape: "list", version: Fobrel::Core::Stroke::Strip::VERSION, png: "x"}
      }
    )
    expect(long["package", presets * 20]).to be(true)
    call(:post, exports, {**wish, kind: "nonsense"})
    expect(status).to be_between(400, 422)
  end
end
