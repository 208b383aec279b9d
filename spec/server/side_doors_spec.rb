# frozen_string_literal: true

require "support/api"

# Ways around a rule that were once open, and requests that were once answered with "on our side".
RSpec.describe "side doors", :api do
  let(:library) { "/api/libraries/#{@first.id}" }
  let(:brushes) { @first.presets.in_order.to_a }

  describe "the path" do
    # `%61pi` is `api` (RFC 3986, 2.1); both guards compared it as it was written.
    it "is decoded once, before the guards look at it" do
      fresh_token
      expect([call(:get, "/%61pi/libraries/#{@first.id}/brushes")["error"], status]).to eq(["Sign in first.", 401])
      ["/%2561pi/session", "/api/sets/%00", "/api/%ff", "/%25"].each { |path|
        expect([path, call(:get, path)["error"], status]).to match([path, /not written as ours/, 400])
      }
    end

    it "counts towards the limit however it is written, by the connection's address and by the account" do
      # The count begins anew every few minutes, and must not do so in the middle.
      allow(Time).to receive(:now).and_return(Time.now)
      stub_const("Fobrel::App::SIGN_IN_LIMIT", 3)
      Rack::Attack.cache.store.clear
      fresh_token
      tries = (1..4).map { |i|
        header(
          "X-Forwarded-For",
          "10.0.0.#{i}"
        ) && call(:post, ["/api/session", "/%61pi/session"][i % 2], {login: "maren", password: "x"}) && status
      }
      expect(tries).to eq([422, 422, 422, 429])
      # The account itself is open to its owner, who comes from elsewhere.
      env = {"REMOTE_ADDR" => "10.9.9.9", "HTTP_HOST" => "localhost", "HTTP_X_CSRF_TOKEN" => @token}
      stub_const("Fobrel::Api::Session::SLOWED", 0)
      post(
        "/api/session",
        JSON.generate({login: "maren", password: Studio::PASSWORD}),
        env.merge("CONTENT_TYPE" => "application/json")
      )
      expect(status).to eq(200)
      clear_cookies
      @token = nil
      fresh_token
      expect(call(:post, "/api/session", {login: "tove", password: "x"}) && status).to eq(422)
      request = ->(forwarded) {
        Fobrel::App.address({"REMOTE_ADDR" => "127.0.0.1", "HTTP_X_FORWARDED_FOR" => forwarded})
      }
      expect([request["1.2.3.4"], request[nil]]).to eq(%w[127.0.0.1 127.0.0.1])
      stub_const("Fobrel::App::PROXIES", ["127.0.0.1"])
      expect([request["6.6.6.6, 1.2.3.4"], request[nil]]).to eq(%w[1.2.3.4 127.0.0.1])
    ensure
      Rack::Attack.cache.store.clear
      header "X-Forwarded-For", nil
    end
  end

  # A form's fields were looked for in every body that did not say what it is.
  it "takes a body for what it is, and answers in JSON, whatever it says it is" do
    sign_in("maren")
    types = [nil, "text/plain", "application/x-www-form-urlencoded", "multipart/form-data; boundary=x", ";;;", "A/B"]
    got = types.map do |type|
      ["{\"name\":\"Of #{type}\"}", "no json", ""].map do |body|
        header("X-CSRF-Token", @token)
        request("#{library}/sets", :method => "POST", :input => body, "CONTENT_TYPE" => type)
        [status, last_response.headers["content-type"]]
      end
    end
    expect(got.flatten(1).map(&:last).uniq).to eq(["application/json"])
    expect(got.map { |each| each.map(&:first) }.uniq).to eq([[201, 400, 400]])
  end

  describe "swapping, hiding and a new baseline" do
    before {
      @same = Fobrel::Actions::CreatePreset.call(
        library: @first,
        person: nil,
        value: Fobrel::Core::Preset::Preset[brushes[0].current_version.document.merge(
          "id" => SecureRandom.uuid,
          "name" => "Same again"
        )]
      )
    }

    def keep(kept, *gone) = call(:post, "#{library}/duplicates", {keep: kept.id, preset_ids: [kept, *gone].map(&:id)})

    it "takes only duplicates for duplicates" do
      sign_in("maren")
      expect([keep(brushes[0], brushes[1])["error"], status]).to match([/do not paint alike/, 422])
      expect(keep(brushes[0], @same)["entry"]["kind"]).to eq("duplicates")
    end

    it "leaves start-up plans and locked brushes to a lead, wherever it is tried" do
      desk = @first.desks.create!(name: "Desk", folder: "desk")
      desk.put_in_order([@same.id])
      sign_in("tove")
      expect(
        [
          keep(brushes[0], @same)["error"],
          status
        ]
      ).to match([/in the start-up plan of Desk, which only a lead changes/, 422])
      expect(desk.preset_ids_in_order).to eq([@same.id])
      maren = Studio::M::Person.find_by!(login: "maren")
      brushes[0].update!(locked_by: maren)
      Fobrel::Actions::AddVersion.call(
        preset: brushes[0],
        value: brushes[0].current_version.value.with("stroke", {"marks_per_step" => 2}),
        person: maren
      )
      expect(
        call(
          :post,
          "#{library}/hidings",
          {preset_ids: [brushes[0].id]}
        )["error"]
      ).to match(/locked by Maren Oake. Nothing was changed/)
      expect(
        call(
          :put,
          "/api/presets/#{brushes[0].id}/baseline",
          {number: 2}
        )["error"]
      ).to match(/locked by Maren Oake/)
      expect([brushes[0].reload.hidden_at, brushes[0].baseline_version.number]).to eq([nil, 1])
      sign_in("maren")
      expect(keep(brushes[1], brushes[1])["error"]).to match(/at least one duplicate/)
      expect(call(:post, "#{library}/hidings", {preset_ids: [brushes[0].id]})["entry"]["kind"]).to eq("hide")
    end

    it "leaves them to a lead at Import, too" do
      desk = @first.desks.create!(name: "Desk", folder: "desk")
      desk.put_in_order([brushes[0].id])
      value = brushes[0].current_version.value
      other = Fobrel::Core::Preset::Preset[value.to_h.merge(
        "id" => SecureRandom.uuid,
        "stroke" => {"marks_per_step" => 3}
      )]
      sign_in("tove")
      plan = deliver(@first, {"other.json" => JSON.generate(other.to_h)})
      item = plan["items"].sole
      expect(item["choices"]).to include("replace")
      plan = call(:put, "/api/imports/#{plan["id"]}", {items: {item["id"] => "replace"}})
      apply(plan)
      expect(desk.preset_ids_in_order).to eq([brushes[0].id])
      expect(brushes[0].reload.hidden_at).to be_nil
    end
  end

  it "packs the sets that were asked for, and no others" do
    sign_in("maren")
    one = @first.brush_sets.create!(name: "Act one").tap { _1.put_in_order(brushes.first(3).map(&:id)) }
    @first.brush_sets.create!(name: "Act two").tap { _1.put_in_order(brushes.first(2).map(&:id)) }
    sets = ->(of) {
      Fobrel::Core::Package::Reader.read(
        call(
          :post,
          "#{library}/exports",
          {kind: "package", name: "x", of:}
        )
      ).sets.map {
        [_1.name, _1.presets.size]
      }
    }
    expect(sets[{set: one.id}]).to eq([["Act one", 3]])
    expect(sets[{preset_ids: brushes.first(3).map(&:id)}]).to eq([])
    expect(sets[{library: true}]).to eq([["Act one", 3], ["Act two", 2]])
  end

  it "answers odd requests with a sentence, never with “on our side”" do
    sign_in("maren")
    odd = [
      [:post, "/api/session", {login: "a\0b", password: "x"}],
      [:post, "#{library}/sets", {name: "a\0b"}],
      [:get, "#{library}/brushes?offset[a]=1"],
      [:get, "#{library}/brushes?offset[]=1"],
      [:post, "#{library}/categories", {name: "x", position: 10**30}],
      [:post, "#{library}/categories", {name: ["x"]}],
      [:post, "#{library}/categories", {name: "x", position: 2**40}],
      [:post, "#{library}/statuses", {name: "x", colour: 7}],
      [:post, "#{library}/export-templates", {export_template: ["x"]}],
      [:post, "#{library}/export-templates/preview", {export_template: [], preset_ids: []}],
      [
        :post,
        "#{library}/exports",
        {kind: "export_template", name: "x", of: {library: true}, options: {export_template: [1]}}
      ],
      [:post, "#{library}/exports", {kind: "package", of: {set: [1]}}],
      [:post, "#{library}/exports", {kind: "package", of: {preset_ids: [[1]]}}],
      [:put, "/api/presets/#{brushes[0].id}/draft", {document: {"name" => "\0"}}]
    ]
    answers = odd.map { |verb, path, data| [path, call(verb, path, data)["error"], status] }
    expect(answers).to all(match([anything, a_kind_of(String), be_between(400, 422)]))
    header "Authorization", "Bearer a b"
    get "/api/session"
    expect(status).to be_between(400, 422)
    header "Authorization", nil
  end

  it "binds the key of a request to who sent it, where to and every byte of it" do
    sign_in("maren")
    path = "/api/libraries/#{@first.id}/taggings"
    brush = @first.presets.first.id
    header "Idempotency-Key", "a-key-of-mine-1"
    first = call(:post, path, {tag: "one", preset_ids: [brush]})
    expect(call(:post, path, {tag: "one", preset_ids: [brush]})).to eq(first)
    expect(@first.history_entries.where(kind: "tag").count).to eq(1)
    other = [
      [path, {tag: "two", preset_ids: [brush]}],
      ["#{path}?x=1", {tag: "one", preset_ids: [brush]}],
      ["/api/libraries/#{@first.id}/hidings", {preset_ids: [brush]}]
    ].map { |address, data| [call(:post, address, data)["error"], status] }
    expect(other).to all(match([/key belongs to another request. Nothing was changed/, 422]))
    expect(@first.tags.exists?(name: "two")).to be(false)
    sign_in("tove") # another person's key of the same letters is another key
    expect([call(:post, path, {tag: "two", preset_ids: [brush]})["entry"]["kind"], status]).to eq(["tag", 200])
  ensure
    header "Idempotency-Key", nil
  end

  it "releases a bundle whose strips were never painted as long work, which ends with the release" do
    sign_in("maren")
    bundle = @first.bundles.create!(name: "Kit", licence: "CC0-1.0", author: "M")
    bundle.put_in_order(@first.presets.shown.order(:id).limit(3).ids)
    allow(Studio::M::Export).to receive(:long?).and_return(true)
    begun = call(:post, "/api/bundles/#{bundle.id}/releases", {notes: "News"})["begun"]
    expect(status).to eq(202)
    done = call(:get, "/api/tasks/#{begun["id"]}")
    expect(
      [
        done["state"],
        done["message"],
        done["result"]["number"]
      ]
    ).to eq(["done", "“Kit” 1.0.0 is released.", "1.0.0"])
    failed = call(:post, "/api/bundles/#{bundle.id}/releases", {})["begun"]
    expect(
      call(:get, "/api/tasks/#{failed["id"]}").values_at(
        "state",
        "message"
      )
    ).to match(["failed", /No changes since/])
  end

  it "says of a release what cannot be painted, and by name" do
    sign_in("maren")
    bundle = @first.bundles.create!(name: "Kit", licence: "CC0-1.0", author: "M")
    bundle.put_in_order(@first.presets.shown.order(:id).limit(2).ids)
    Studio::M::KeptStrip.delete_all
    allow(Fobrel::Core::Apart).to receive(:call).and_raise(
      Fobrel::Core::Clock::Over,
      "This takes longer than 20 seconds."
    )
    answer = call(:post, "/api/bundles/#{bundle.id}/releases", {})
    expect([answer["error"], status]).to match([/\A“.+” cannot be painted: This takes .* Nothing was released\./, 422])
  end
end
