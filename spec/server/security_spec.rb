# frozen_string_literal: true

require "support/api"

RSpec.describe "who may do what", :api do
  it "knows every route of the contract" do
    served = Fobrel::Api::Application.routes.slice("GET", "POST", "PUT", "DELETE").flat_map do |verb, list|
      list.map { |pattern, *| [verb, pattern.to_s.gsub(/:(\w+)/, '{\1}')] }
    end
    expect(served).to match_array(Routes.all.map { |one| [one.verb, one.path] })
  end

  it "asks everybody to sign in first, on every route that is somebody's" do
    fresh_token
    answers = Routes.guarded.map { |one|
      call(one.verb.downcase.to_sym, Routes.filled(one.path, library: @first), (one.verb == "GET") ? nil : {})
      [status, one.path]
    }
    expect(answers.reject { |one| one.first == 401 }).to eq([])
  end

  it "lets nobody but who runs the studio ask about it" do
    sign_in("tove")
    answers = Routes.all.select { |one| one.may == :studio }.map { |one|
      call(one.verb.downcase.to_sym, Routes.filled(one.path, library: @first), (one.verb == "GET") ? nil : {})
      status
    }
    expect(answers).to eq([403] * answers.size)
    expect(answers.size).to be >= 3
  end

  it "shows nothing of a library to those who are not its members" do
    thing = @first.presets.first
    set = @first.brush_sets.create!(name: "Kit")
    desk = @first.desks.create!(name: "Desk", folder: "desk-x")
    entry = @first.history_entries.create!(person: Studio::M::Person.first, kind: "tag", summary: "x")
    stranger = Studio::M::Person.create!(login: "nils", name: "Nils Holm", password: Studio::PASSWORD)
    @second.memberships.create!(person: stranger, role: "lead")
    sign_in("nils")
    bundle = @first.bundles.create!(name: "Parcel")
    release = bundle.releases.create!(
      number: "1.0.0",
      items: [],
      words: {},
      package: "x",
      sha256: "0" * 64,
      person: Studio::M::Person.first
    )
    import = @first.imports.create!(name: "Parcel", source: "dropped")
    export = @first.exports.create!(
      kind: "kit",
      name: "x",
      file: "x",
      goes_to: "x",
      wish: {},
      count: 1,
      size: 1,
      sha256: "0" * 64,
      person: Studio::M::Person.first
    )
    export_template = @first.export_templates.create!(name: "x", scope: "each", file: "x", body: "x")
    things = {
      "imports" => import,
      "exports" => export,
      "export-templates" => export_template,
      "bundles" => bundle,
      "releases" => release,
      "sets" => set,
      "desks" => desk,
      "history" => entry,
      "presets" => thing,
      "follows" => @first.follows.create!(bundle:, person: Studio::M::Person.first)
    }
    answers = Routes.of_libraries.map do |one|
      data = (one.verb == "GET") ? nil : {
        "document" => thing.current_version.document,
        "preset_ids" => [],
        "name" => "x",
        "tag" => "x",
        "base" => 1
      }
      call(one.verb.downcase.to_sym, Routes.filled(one.path, library: @first, things:), data)
      [one.verb, one.path, status]
    end
    expect(answers.reject { _1.last == 404 }).to eq([])
  end

  it "brings no session back with an answer that was under way at signing out" do
    sign_in("maren")
    cookie = last_request.env["HTTP_COOKIE"]
    call(:get, "/api/libraries/#{@first.id}/brushes")
    expect([status, last_response.headers["set-cookie"]]).to eq([200, nil])
    call(:put, "/api/adjustments", {})
    expect([status, last_response.headers["set-cookie"], cookie.nil?]).to eq([200, nil, false])
  end

  it "lets a guest look and export, and change nothing" do
    sign_in("ilse")
    preset = @first.presets.first
    desk = @first.desks.create!(name: "Desk", folder: "desk-y")
    document = preset.current_version.document
    writes = {
      "taggings" => {tag: "x", preset_ids: [preset.id]},
      "sets" => {name: "x"},
      "reset" => {},
      "imports" => {name: "x"},
      "export-templates" => {name: "x", scope: "each", file: "x", body: "x"},
      "gallery" => {id: "x", title: "x"},
      "works" => "x",
      "desks" => {name: "x"}
    }
    expect(
      writes.map { |path, data|
        call(:post, "/api/libraries/#{@first.id}/#{path}", data) && status
      }.uniq
    ).to eq([403])
    expect(
      [[:put, "draft"], [:post, "versions"], [:post, "variations"]].map { |verb, path|
        call(verb, "/api/presets/#{preset.id}/#{path}", {document:, base: 1}) && status
      }.uniq
    ).to eq([403])
    call(:post, "/api/desks/#{desk.id}/send", {})
    expect(status).to eq(403)
    expect(call(:get, "/api/libraries/#{@first.id}/brushes")["presets"].size).to eq(8)
    expect(call(:get, "/api/strips/#{preset.current_version.fingerprint}/list.png")[0, 4]).to eq("\x89PNG".b)
  end

  it "lets an artist edit but not send to desks" do
    sign_in("tove")
    desk = @first.desks.create!(name: "Desk", folder: "desk-z")
    expect(
      call(
        :post,
        "/api/libraries/#{@first.id}/taggings",
        {tag: "wet", preset_ids: [@first.presets.first.id]}
      )["entry"]["summary"]
    ).to include("wet")
    expect(
      [[:put, "plan", {lines: []}], [:post, "send", {}]].map { |verb, path, data|
        call(verb, "/api/desks/#{desk.id}/#{path}", data) && status
      }
    ).to eq([403, 403])
  end

  it "lets a program act with a person's token, with their rights and no others, until it is taken back" do
    sign_in("tove")
    made = call(:post, "/api/tokens", {name: "nightly"})
    expect(
      [
        made["token"].size > 40,
        Studio::M::AccessToken.last.digest,
        call(
          :get,
          "/api/tokens"
        )["tokens"].first.key?("token")
      ]
    ).to eq([true, Digest::SHA256.hexdigest(made["token"]), false])
    ask = lambda do |verb, path, token, body = nil|
      clear_cookies
      header "X-CSRF-Token", nil
      header "Authorization", "Bearer #{token}"
      public_send(verb, path, body && JSON.generate(body))
      status
    end
    expect(ask[:get, "/api/libraries/#{@first.id}/brushes", made["token"]]).to eq(200)
    expect(ask[:post, "/api/libraries/#{@first.id}/sets", made["token"], {name: "From afar"}]).to eq(201)
    expect(ask[:delete, "/api/libraries/#{@first.id}/hidden", made["token"], {preset_ids: []}]).to eq(403)
    expect(
      [
        ask[:get, "/api/tokens", made["token"]],
        ask[:post, "/api/tokens", made["token"], {name: "more"}]
      ]
    ).to eq([403, 403])
    expect(ask[:get, "/api/libraries/#{@first.id}/brushes", "fobrel_wrong"]).to eq(401)
    header "Authorization", nil
    sign_in("maren")
    call(:delete, "/api/tokens/#{made["id"]}")
    expect(status).to eq(404)
    cookies = last_request.env["HTTP_COOKIE"]
    header "Authorization", "Bearer nobody"
    get "/api/libraries/#{@first.id}/brushes"
    expect([cookies.nil?, status]).to eq([false, 401]) # the cookie counts for nothing beside a token
    header "Authorization", nil
    Studio::M::AccessToken.delete_all
    expect(ask[:get, "/api/libraries/#{@first.id}/brushes", made["token"]]).to eq(401)
    header "Authorization", nil
  end

  it "paints no picture of another library for what comes in without its own" do
    png = Fobrel::Core::Tip::Cover[[[1]]].to_png
    sum = Studio::M::Asset.keep(png, "png")
    value = Fobrel::Core::Preset::Preset.build(
      "Thief",
      {"tip" => {"form" => {"kind" => "picture", "frames" => ["sha256:#{sum}"]}, "size" => {"base" => 9}}}
    )
    sign_in("maren")
    item = deliver(@second, {"thief.json" => JSON.generate(value.to_h)})["items"].sole
    expect(item.values_at("state", "decision", "choices")).to eq(["lacking", "leave", ["leave"]])
    call(:get, "/api/imports/#{Studio::M::Import.last.id}/strips/#{item["id"]}.png")
    expect(status).to eq(404)
  end

  it "refuses a change without the page's token, and from an unknown host" do
    sign_in("maren")
    header "X-CSRF-Token", "forged"
    post "/api/libraries/#{@first.id}/reset", "{}"
    expect([status, JSON.parse(last_response.body)["error"]]).to match([403, /Nothing was changed/])
    get "/api/session", {}, {"HTTP_HOST" => "evil.example"}
    expect(status).to eq(403)
  end

  it "says the same for a wrong name and a wrong password, and hashes passwords" do
    fresh_token
    answers = [["maren", "wrong"], ["nobody", "wrong"]].map { |login, password|
      call(:post, "/api/session", {login:, password:})
    }
    expect([status, answers.uniq.size]).to eq([422, 1])
    expect(Studio::M::Person.pluck(:password_digest)).to all(start_with("$2a$"))
  end

  it "takes presets only of the library asked for" do
    sign_in("tove")
    call(:post, "/api/libraries/#{@second.id}/taggings", {tag: "x", preset_ids: [@first.presets.first.id]})
    expect([status, @second.tags.count]).to eq([422, 0])
  end

  it "paints no picture of a library one cannot see" do
    png = Fobrel::Core::Tip::Cover[[[1]]].to_png
    sum = Studio::M::Asset.keep(png, "png")
    sign_in("tove")
    value = Fobrel::Core::Preset::Preset.build(
      "Thief",
      {"tip" => {"form" => {"kind" => "picture", "frames" => ["sha256:#{sum}"]}, "size" => {"base" => 9}}}
    )
    expect(
      call(
        :post,
        "/api/libraries/#{@first.id}/strip",
        {document: value.to_h}
      )["error"]
    ).to match(/needs the picture/)
    own = @first.presets.first
    taken = value.to_h.merge("id" => own.document_id)
    # What is saved is a draft, so this is the only way in.
    expect(call(:put, "/api/presets/#{own.id}/draft", {document: taken})["error"]).to match(/needs the picture/)
  end

  it "writes no token, password or cookie into its log, whatever breaks" do
    _, token = Studio::M::AccessToken.issue(Studio::M::Person.find_by!(login: "maren"), "log")
    allow(Fobrel::Finding::Consistency).to receive(:new).and_raise("broken")
    allow_any_instance_of(Studio::M::Person).to receive(:authenticate).and_raise("broken too")
    said = lambda do |&asked|
      was, $stderr = $stderr, StringIO.new
      asked.call
      $stderr.string.tap { $stderr = was }
    end
    log = said.call do
      header "Authorization", "Bearer #{token}"
      get "/api/libraries/#{@first.id}/consistency?key=#{token}"
      header "Authorization", nil
      call(:post, "/api/session", {login: "maren", password: "a password of mine"})
    end
    expect(log).to match(/broken/)
    expect(log).not_to include(token)
    expect(log).not_to include("a password of mine")
    expect(log).not_to match(/fobrel\.session/)
  end

  it "carries its guards on every answer" do
    header "Host", "localhost"
    get "/"
    expect(
      last_response.headers.slice(
        "content-security-policy",
        "x-content-type-options"
      ).values
    ).to match([/default-src 'self'/, "nosniff"])
    get "/../server/boot.rb"
    expect(last_response.body).not_to include("frozen_string_literal")
  end
end
