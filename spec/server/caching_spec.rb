# frozen_string_literal: true

require "support/api"

# What an answer says of being kept (RFC 9111): what anybody may keep carries nobody's cookie, what is somebody's own is
# private, and only signing in and out writes the session.
RSpec.describe "what may be kept of an answer", :api do
  let(:asset) { "/assets/#{File.basename(Dir[File.join(Fobrel::App::DIST, "assets/index-*.js")].first)}" }

  def ask(path, verb = :get, **headers)
    header "Host", "localhost"
    headers.each { |name, value| header(name.to_s.tr("_", "-"), value) }
    public_send(verb, path)
    last_response.headers
  end

  def pages = ["/", asset, "/index.html", "/assets/none.js", "/none", "/none.png", "/healthz", "/readyz"]

  def rows(paths)
    paths.map { |path| [path, *ask(path, Accept_Encoding: "gzip").values_at("cache-control", "set-cookie", "vary")] }
  end

  it "is the page's own files for anybody, and no cookie with them" do
    [nil, "maren"].each do |login|
      login && sign_in(login)
      found = rows(pages)
      expect(found.map { |_, _, cookie, _| cookie }).to all(be_nil)
      kept = found.select { |_, control, _, _| control.include?("public") }
      expect(kept.map(&:first)).to eq([asset])
      expect(kept.first[3]).to include("Accept-Encoding")
    end
  end

  it "is of the API nothing for anybody else, and writes the cookie nowhere but where the session is asked for" do
    sign_in("maren")
    addresses = Routes.all.select { |one| one.verb == "GET" }.map { |one| Routes.filled(one.path, library: @first) }
    found = rows(addresses - ["/api/session"]).reject { |path, *| path.include?("/live") }
    expect(found.reject { |_, _, cookie, _| cookie.nil? }).to eq([])
    expect(found.reject { |_, control, _, _| control.to_s.match?(/\bprivate\b|no-store|no-cache/) }).to eq([])
    expect(found.select { |_, control, _, _| control.to_s.match?(/\bpublic\b|s-maxage/) }).to eq([])
    deeds = Routes.all.reject { |one| one.verb == "GET" || one.may == :anyone }
    written = deeds.filter_map do |one|
      Studio::M::Record.transaction(requires_new: true) do
        header "X-CSRF-Token", @token
        header "Content-Type", "application/json"
        public_send(one.verb.downcase, Routes.filled(one.path, library: @first), "{}")
        raise ActiveRecord::Rollback
      end
      control, cookie = last_response.headers.values_at("cache-control", "set-cookie")
      [one.verb, one.path, control, cookie] if cookie || control != "no-store"
    end
    expect(written).to eq([])
  end

  it "writes the cookie with what nobody keeps: signing in, out, and asking for the page's token" do
    expect(ask("/api/session").values_at("cache-control").push(last_response.headers["set-cookie"])).to match(
      ["no-store", /fobrel\.session=/]
    )
    sign_in("maren")
    expect(last_response.headers["cache-control"]).to eq("no-store")
    call(:post, "/api/session", {login: "maren", password: "wrong"})
    expect([status, last_response.headers["set-cookie"]]).to eq([422, nil])
    call(:delete, "/api/session", {})
    expect(last_response.headers.values_at("cache-control", "set-cookie")).to match(["no-store", /fobrel\.session=/])
  end
end
