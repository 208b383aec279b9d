# frozen_string_literal: true

require "support/api"

RSpec.describe "people and libraries", :api do
  let(:library) { "/api/libraries/#{@first.id}" }
  let(:good) { "tide over the harbour brushes" }

  def person(login) = Studio::M::Person.find_by!(login:)

  # The cookies of one browser, so that two can be used in turn.
  def elsewhere
    kept = rack_mock_session.cookie_jar.instance_variable_get(:@cookies).dup
    token = @token
    yield
  ensure
    rack_mock_session.cookie_jar.instance_variable_set(:@cookies, kept)
    @token = token
  end

  def invite(role = "artist", **more) = call(:post, "#{library}/invitations", {role:, **more})

  def accept(path, **words)
    clear_cookies
    @token = nil
    call(:post, path.sub("/invitation/", "/api/invitations/"), words)
  end

  describe "invitations" do
    before { sign_in("maren") }

    it "let one person in, once, who is signed in then" do
      made = invite("artist", name: "Nils")
      expect([made["role"], made["path"].size]).to match(["artist", be > 40])
      clear_cookies
      seen = call(:get, made["path"].sub("/invitation/", "/api/invitations/"))
      expect(seen.values_at("library", "role", "by", "member")).to eq([@first.name, "artist", "Maren Oake", false])
      state = accept(made["path"], login: " Nils ", name: "Nils Holm", password: good)
      expect([status, state["person"]["login"]]).to eq([201, "nils"])
      expect(call(:get, "#{library}/people")["people"].map { |one| one["name"] }).to include("Nils Holm")
      expect(
        accept(
          made["path"],
          login: "olga",
          name: "Olga",
          password: good
        )["error"]
      ).to match(/no longer valid/)
      sign_in("nils", good)
      call(:post, "#{library}/invitations", {role: "lead"})
      expect(status).to eq(403)
    end

    it "are for whoever is signed in, but not for those who are in already" do
      stranger = Studio::M::Person.create!(login: "olga", name: "Olga Berg", password: good)
      path = invite("guest")["path"].sub("/invitation/", "/api/invitations/")
      expect(call(:post, path, {})["error"]).to match(/in .* already.*still counts/)
      sign_in("olga", good)
      expect(call(:post, path, {})["libraries"].map { |one| one["role"] }).to eq(["guest"])
      expect(stranger.memberships.count).to eq(1)
    end

    it "end after a week, are taken back, and count no more when their maker may not invite" do
      paths = Array.new(3) { invite["path"] }
      Studio::M::Invitation.order(:id).first.update!(ends_at: 1.minute.ago)
      call(:delete, "#{library}/invitations/#{Studio::M::Invitation.order(:id).second.id}")
      expect(call(:get, "#{library}/invitations")["invitations"].size).to eq(1)
      @first.memberships.find_by!(person: person("tove")).update!(role: "lead")
      @first.memberships.find_by!(person: person("maren")).update!(role: "artist")
      codes = paths.map { |path| accept(path, login: "x1", name: "X", password: good) && status }
      expect(codes).to eq([404] * 3)
      expect(Studio::M::Invitation.pluck(:digest)).to all(match(/\A\h{64}\z/))
    end

    it "make nobody whose password is too easy, or whose name is taken" do
      path = invite["path"]
      {
        "short" => /at least 10/,
        "password123" => /tried first/,
        "qwertyuiop" => /tried first/,
        "1234567890" => /tried first/,
        "aaaaaaaaaaaa" => /tried first/,
        "nils-holm-1" => /tried first/,
        "dragondragon" => /tried first/,
        "ü" * 60 => /longer than 72 bytes/
      }.each do |password, said|
        expect(accept(path, login: "nils", name: "Nils Holm", password:)["error"]).to match(said), password
      end
      expect(accept(path, login: "Tove", name: "T", password: good)["error"]).to match(/signs in as “tove” already/)
      expect(accept(path, login: "a b", name: "T", password: good)["error"]).to match(/Login is invalid/)
      expect(accept(path)["error"]).to match(/Take a name/)
      expect(Studio::M::Person.count).to eq(3)
    end

    it "are used by one of two who press at the same moment" do
      path = invite["path"].sub("/invitation/", "/api/invitations/")
      key = path[%r{[^/]+\z}]
      found = Studio::M::Invitation.of(key)
      stale = Studio::M::Invitation.of(key)
      call = ->(invitation, login) {
        Fobrel::Actions::AcceptInvitation.call(invitation:, person: nil, login:, name: login, password: good)
      }
      call[found, "anna"]
      expect { call[stale, "bert"] }.to raise_error(Fobrel::Actions::Action::Overtaken)
      expect(Studio::M::Person.exists?(login: "bert")).to be(false)
    end
  end

  describe "roles" do
    before { sign_in("maren") }

    it "are changed by a lead, written down, and leave one lead at least" do
      tove = person("tove")
      entry = call(:put, "#{library}/people/#{tove.id}", {role: "lead"})["entry"]
      expect(entry["summary"]).to eq("Tove Lindgaard: artist → lead")
      call(:put, "#{library}/people/#{person("maren").id}", {role: "artist"})
      expect(status).to eq(200)
      sign_in("tove")
      expect(call(:put, "#{library}/people/#{tove.id}", {role: "guest"})["error"]).to match(/last lead/)
      expect(call(:post, "#{library}/leave", {})["error"]).to match(/last lead/)
      call(
        :put,
        "#{library}/people/#{Studio::M::Person.create!(login: "olga", name: "O", password: good).id}",
        {role: "lead"}
      )
      expect(status).to eq(404)
    end

    it "count from the next request on" do
      elsewhere do
        sign_in("tove")
        expect(call(:post, "#{library}/sets", {name: "Mine"}) && status).to eq(201)
      end
      call(:put, "#{library}/people/#{person("tove").id}", {role: "guest"})
      sign_in("tove")
      call(:post, "#{library}/sets", {name: "Mine too"})
      expect([status, last_response.headers["x-role"]]).to eq([403, "#{@first.id} guest"])
    end

    it "end with leaving; what was made stays, drafts go where a lead says" do
      tove, ilse = %w[tove ilse].map { |login| person(login) }
      preset, other = @first.presets.first(2)
      [preset, other].each do |one|
        about = {"notes" => "Tove's"}
        value = one.current_version.value.with("about", about)
        Fobrel::Actions::KeepDraft.call(preset: one, person: tove, value:)
      end
      own = other.current_version.value.with("about", {"notes" => "Ilse's"})
      Fobrel::Actions::KeepDraft.call(preset: other, person: ilse, value: own)
      entry = call(:delete, "#{library}/people/#{tove.id}", {drafts_to: ilse.id})["entry"]
      expect(entry["summary"]).to eq("Tove Lindgaard taken out; their drafts of 1 brush handed on to Ilse Brandow")
      notes = ->(one, who) { one.drafts.find_by(person: who)&.document&.dig("about", "notes") }
      expect([notes[preset, ilse], notes[other, ilse], notes[other, tove]]).to eq(["Tove's", "Ilse's", "Tove's"])
      sign_in("tove")
      call(:get, "#{library}/brushes")
      expect(status).to eq(404)
    end
  end

  describe "sessions" do
    it "live in the database: a cookie from before signing out is worth nothing" do
      sign_in("maren")
      cookie = last_request.env["HTTP_COOKIE"]
      call(:delete, "/api/session")
      clear_cookies
      get "/api/libraries/#{@first.id}/brushes", {}, {"HTTP_COOKIE" => cookie, "HTTP_HOST" => "localhost"}
      expect(status).to eq(401)
      expect(Studio::M::SignIn.pluck(:digest)).to all(match(/\A\h{64}\z/))
    end

    it "end by themselves, after idling and after so long in all" do
      [{seen_at: 15.days.ago}, {created_at: 31.days.ago}].each do |long_ago|
        sign_in("maren")
        Studio::M::SignIn.last.update!(**long_ago)
        call(:get, "#{library}/brushes")
        expect(status).to eq(401)
      end
    end

    it "are listed, ended one by one or all others at once; a new password ends all others" do
      sign_in("maren")
      header "User-Agent", "Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0"
      elsewhere { sign_in("maren") }
      header "User-Agent", nil
      elsewhere { sign_in("maren") }
      listed = call(:get, "/api/me")["sessions"]
      expect(listed.map { |one| one["from"] }).to include("Firefox on Linux, 127.0.0.1")
      expect(listed.count { |one| one["here"] }).to eq(1)
      call(:delete, "/api/me/sessions/#{listed.find { |one| !one["here"] }["id"]}")
      expect(call(:get, "/api/me")["sessions"].size).to eq(2)
      call(:put, "/api/me/password", {now: "wrong", password: good})
      expect(status).to eq(422)
      expect(
        call(
          :put,
          "/api/me/password",
          {now: Studio::PASSWORD, password: "password123"}
        )["error"]
      ).to match(/tried first/)
      call(:put, "/api/me/password", {now: Studio::PASSWORD, password: good})
      expect(call(:get, "/api/me")["sessions"].size).to eq(1)
      sign_in("maren", good)
      expect(call(:get, "/api/me")["name"]).to eq("Maren Oake")
      person("maren").update!(password: Studio::PASSWORD)
    end

    it "are new ones at signing in (no fixation), hidden from scripts, sent to our own pages only, safely over HTTPS" do
      call(:get, "/api/session")
      before = last_response.headers["set-cookie"].to_s[/fobrel\.session=([^;]+)/, 1]
      sign_in("maren")
      after = Array(last_request.env["HTTP_COOKIE"]).join
      expect(after).not_to include(before)
      get "/api/session", {}, {"HTTP_HOST" => "localhost", "HTTPS" => "on"}
      post "/api/session", "{}", {"HTTP_HOST" => "localhost", "HTTPS" => "on"}
      clear_cookies
      get "/api/session", {}, {"HTTP_HOST" => "localhost", "HTTPS" => "on"}
      expect(last_response.headers["set-cookie"].to_s.downcase).to include("secure", "httponly", "samesite=strict")
    end

    it "end with the account, which only somebody else who runs the studio shuts" do
      maren, tove = %w[maren tove].map { |login| person(login) }
      maren.update!(owner: true)
      sign_in("tove")
      elsewhere do
        sign_in("maren")
        expect(call(:put, "/api/studio/people/#{maren.id}", {closed: true})["error"]).to match(/from yourself/)
        @second.memberships.where.not(person: tove).delete_all
        expect(
          call(
            :put,
            "/api/studio/people/#{tove.id}",
            {closed: true}
          )["error"]
        ).to match(/last lead of “Second unit”/)
        @second.memberships.find_or_create_by!(person: maren, role: "lead")
        call(:put, "/api/studio/people/#{tove.id}", {closed: true})
        expect(status).to eq(200)
      end
      call(:get, "#{library}/brushes")
      expect(status).to eq(401)
      sign_in("tove")
      expect(call(:get, "/api/session")["person"]).to be_nil
      tove.update!(closed_at: nil)
      maren.update!(owner: false)
    end
  end

  describe "tokens" do
    def with_token(limits)
      sign_in("maren")
      token = call(:post, "/api/tokens", {name: "t", **limits})["token"]
      clear_cookies
      header "X-CSRF-Token", nil
      header "Authorization", "Bearer #{token}"
      yield
    ensure
      header "Authorization", nil
      @token = nil
    end

    def asked(verb, path, data = nil)
      header "Host", "localhost"
      header "Content-Type", "application/json"
      public_send(verb, path, data && JSON.generate(data))
      status
    end

    it "reach as far as they were made to" do
      desk = @first.desks.create!(name: "Desk", folder: "desk-t")
      with_token({scope: "read"}) do
        expect([asked(:get, "#{library}/brushes"), asked(:post, "#{library}/sets", {name: "x"})]).to eq([200, 403])
      end
      with_token({library: @first.id}) do
        codes = [
          asked(:get, "#{library}/brushes"),
          asked(:get, "/api/libraries/#{@second.id}/brushes"),
          asked(:get, "/api/adjustments"),
          asked(:get, "/api/session")
        ]
        expect(codes).to eq([200, 403, 403, 200])
      end
      # Nor by a side door: from another library into this one.
      other = @second.presets.first || Fobrel::Actions::CreatePreset.call(
        library: @second,
        person: person("maren"),
        value: Fobrel::Core::Preset::Preset.restore(
          @first.presets.first.current_version.document.merge("id" => SecureRandom.uuid)
        ).with("stroke", "spacing" => 0.77)
      )
      with_token({library: @first.id}) do
        expect(asked(:post, "#{library}/taken", {preset_ids: [other.id]})).to eq(404)
        expect(asked(:post, "#{library}/proposals", {preset_ids: [other.id]})).to eq(404)
        asked(:get, "#{library}/follows")
        expect(JSON.parse(last_response.body)["proposed"]).to eq([])
        there, here = [other, @first.presets.first].map { |one| "/api/strips/#{one.fingerprint}/list.png" }
        expect([asked(:get, there), asked(:get, here)]).to eq([404, 200])
        asked(:get, "/api/session")
        expect(JSON.parse(last_response.body)["libraries"].map { |one| one["id"] }).to eq([@first.id])
      end
      other_desk = @first.desks.create!(name: "Other", folder: "desk-u")
      with_token({desk: desk.id}) do
        expect([asked(:get, "#{library}/brushes"), asked(:get, "/api/session")]).to eq([403, 403])
        # Its own plan (none yet), its own report; nothing of another desk, and nothing else of its own.
        expect([asked(:get, "/api/my-desk"), asked(:get, "/api/desks/#{desk.id}/start")]).to eq([200, 404])
        expect(asked(:post, "/api/desks/#{desk.id}/report", {found: {plan: nil, items: []}})).to eq(200)
        others = %w[start report send plan].map { |path| "/api/desks/#{other_desk.id}/#{path}" }
        verbs = {"report" => :post, "send" => :post, "plan" => :put}
        all = [*others, "/api/desks/#{desk.id}/send", "/api/desks/#{desk.id}/plan"].map { |path|
          asked(verbs.fetch(path[/[a-z-]+\z/], :get), path, {})
        }
        expect([all.uniq, asked(:get, "/api/desks/#{desk.id}")]).to eq([[403], 403])
      end
      with_token({days: 1}) do
        Studio::M::AccessToken.last.update!(ends_at: 1.second.ago)
        expect(asked(:get, "#{library}/brushes")).to eq(401)
      end
      sign_in("maren")
      other = Studio::M::Library.create!(name: "Not hers")
      call(:post, "/api/tokens", {name: "t", library: other.id})
      expect(status).to eq(404)
    end
  end

  describe "libraries" do
    before { sign_in("maren") }

    it "are made by anybody for a project, for the whole studio by whoever runs it" do
      made = call(:post, "/api/libraries", {name: " The   pier ", description: "Night scenes"})
      expect(made.values_at("name", "kind", "role")).to eq(["The pier", "project", "lead"])
      call(:post, "/api/libraries", {name: "All", kind: "studio"})
      expect(status).to eq(403)
      person("maren").update!(owner: true)
      call(:post, "/api/libraries", {name: "All", kind: "studio"})
      expect(status).to eq(201)
      expect(call(:post, "/api/libraries", {name: "   "})["error"]).to match(/needs a name/)
      own = Array.new(2) { call(:post, "/api/libraries/own")["id"] }
      expect([own.uniq.size, call(:get, "/api/session")["libraries"].count { |one| one["own"] }]).to eq([1, 1])
      expect(call(:post, "/api/libraries/#{own.first}/leave", {})["error"]).to match(/stays with you/)
      expect(call(:post, "/api/libraries/#{own.first}/invitations", {role: "guest"})["error"]).to match(/one's own/)
      person("maren").update!(owner: false)
    end

    it "are described, archived and restored; an archived one is only looked at" do
      call(:put, library, {name: "Storm", description: "For the film"})
      page = call(:get, library)
      expect(
        page.values_at(
          "name",
          "description",
          "brushes",
          "leads"
        )
      ).to eq(["Storm", "For the film", 8, ["Maren Oake"]])
      expect(page["fresh"].size).to eq(6)
      call(:put, library, {archived: true})
      expect(call(:post, "#{library}/sets", {name: "x"})["error"]).to match(/is archived: it is only looked at/)
      expect(
        [
          call(:get, "#{library}/brushes") && status,
          call(:put, library, {archived: false}) && status
        ]
      ).to eq([200, 200])
      call(:post, "#{library}/sets", {name: "x"})
      expect(status).to eq(201)
      sign_in("tove")
      call(:put, library, {archived: true})
      expect(status).to eq(403)
    end

    it "of originals import and change nothing" do
      @second.update!(kind: "stock")
      path = "/api/libraries/#{@second.id}"
      expect(call(:post, "#{path}/sets", {name: "x"})["error"]).to match(/originals as they were received/)
      fog = Fobrel::Core::Preset::Preset.build(
        "Fog", {"tip" => {"form" => {"kind" => "round", "hardness" => 1}, "size" => {"base" => 9}}}
      )
      import = deliver(@second, {"fog.json" => JSON.generate(fog.to_h)})
      call(:post, "/api/imports/#{import["id"]}/apply", {stamp: import["stamp"]})
      preset = @second.presets.find_by!(name: "Fog")
      call(:put, "/api/presets/#{preset.id}/draft", {document: fog.to_h})
      expect(status).to eq(403)
    end
  end

  it "begins a studio with its first person, by the key that was shown, once" do
    Studio.clear
    key = Studio::M::Person.new_first_key
    clear_cookies
    @token = nil
    expect(call(:get, "/api/session")["begins"]).to be(true)
    words = {login: "first", name: "First One", password: good, library: "Our studio"}
    expect(call(:post, "/api/begin", {key: "wrong" * 6, **words})["error"]).to match(/not the key/)
    state = call(:post, "/api/begin", {key:, **words})
    expect([state["person"]["owner"], state["libraries"].map { |one| [one["name"], one["kind"], one["role"]] }]).to eq(
      [true, [["First One’s own", "personal", "lead"], ["Our studio", "project", "lead"]]]
    )
    fresh_token
    call(:post, "/api/begin", {key:, **words})
    expect(status).to eq(404)
    expect(call(:get, "/api/studio")["people"].map { |one| one["name"] }).to eq(["First One"])
  ensure
    Studio.clear
  end

  it "knows a login however it is written, and takes none that looks like another" do
    names = Fobrel::Core::Names
    expect(
      ["Ｍaren", " MAREN ", "ma\u200Bren", "e\u0301va"].map { |text|
        names.login(text)
      }
    ).to eq(%w[maren maren maren éva])
    person = ->(login, name = "Any") { Studio::M::Person.new(login:, name:, password: "four quiet harbour words") }
    expect(%w[maren2 дмитрий 山田たろう çelik].map { |login| person[login].valid? }).to all(be(true))
    # Cyrillic а in a Latin word, Greek ο, digits of another script, a line break, a direction mark.
    odd = ["m\u0430ren", "t\u03BFve", "tove\u0661", "to\nve x", "a b"]
    expect(odd.map { |login| person[login].valid? }).to all(be(false))
    expect(person["nobody", "Maren\u202E\nOake"].name).to eq("Maren Oake")
  end

  it "does not do for somebody what they may not do any more when it comes up" do
    sign_in("tove")
    ids = @first.presets.limit(2).ids
    said = {"preset_ids" => ids, "tag" => "late"}
    task = Studio::M::Task.create!(
      library: @first,
      person: Studio::M::Person.find_by!(login: "tove"),
      kind: "ChangeMany",
      message: "Tagging",
      about: {"deed" => "tag", "said" => said, "answer" => {}, "via" => "page"}
    )
    member = @first.memberships.find_by!(person: task.person)
    member.update!(role: "guest")
    Fobrel::Jobs::ChangeMany.run(task.id)
    expect(
      [
        task.reload.state,
        task.message,
        @first.tags.exists?(name: "late")
      ]
    ).to match(["failed", /may not do it any more/, false])
    member.update!(role: "artist")
    again = Studio::M::Task.create!(
      **task.attributes.symbolize_keys.slice(
        :library_id,
        :person_id,
        :kind,
        :message,
        :about
      )
    )
    Fobrel::Jobs::ChangeMany.run(again.id)
    expect([again.reload.state, @first.tags.exists?(name: "late")]).to eq(["done", true])
  end

  it "ends tokens with a new password where that is asked for, and lets nobody into an archive" do
    sign_in("maren")
    maren = Studio::M::Person.find_by!(login: "maren")
    2.times { |n| Studio::M::AccessToken.issue(maren, "box #{n}") }
    fresh = "another four quiet words"
    call(:put, "/api/me/password", {now: Studio::PASSWORD, password: fresh})
    expect([status, maren.access_tokens.count]).to eq([200, 2])
    call(:put, "/api/me/password", {now: fresh, password: "#{fresh} more", tokens: true})
    expect([status, maren.access_tokens.count]).to eq([200, 0])
    key = Studio::M::Invitation.issue(@second, maren, role: "guest", name: "").last
    @second.update!(archived_at: Time.current)
    call(:get, "/api/invitations/#{key}")
    expect(status).to eq(404)
  end
end
