# frozen_string_literal: true

require "support/api"

# What the contract says of who may ask, tried on every route as every role: the server enforces the same lines.
RSpec.describe "who the contract lets ask", :api do
  let(:person) { Studio::M::Person.find_by!(login: "maren") }
  # One thing of each kind, by what its address begins with.
  let!(:things) do
    preset = @first.presets.first
    bundle = @first.bundles.create!(name: "Parcel")
    frozen = {number: "1.0.0", items: [], words: {}, package: "x", sha256: "0" * 64, person:}
    export = {
      kind: "kit", name: "x", file: "x", goes_to: "x", wish: {}, count: 1, size: 1, sha256: "0" * 64, person:
    }
    {
      "presets" => preset,
      "sets" => @first.brush_sets.create!(name: "Kit"),
      "seats" => @first.seats.create!(name: "Desk", folder: "desk-c"),
      "tags" => @first.tags.first,
      "families" => @first.families.create!(name: "Inks"),
      "labels" => @first.labels.create!(name: "to check", colour: "moss", shape: "bar", position: 0),
      "bundles" => bundle,
      "releases" => bundle.releases.create!(**frozen),
      "arrivals" => @first.arrivals.create!(name: "Parcel", source: "dropped"),
      "exports" => @first.exports.create!(**export),
      "recipes" => @first.recipes.create!(name: "x", scope: "each", file: "x", body: "x"),
      "ledger" => @first.ledger_entries.create!(person:, kind: "tag", summary: "x")
    }
  end

  def filled(path)
    id = things.find { |name, _| path.start_with?("/api/#{name}/") }&.last&.id || 1
    parts = {"library" => @first.id, "id" => id, "fingerprint" => "0" * 64, "shape" => "wall", "number" => 1}
    path.gsub(/\{(\w+)\}/) { parts.merge("item" => 1, "sum" => "0" * 64).fetch(_1[1..-2]).to_s }
  end

  # What came of it; whatever it did is as if it had not been.
  def tried
    given = nil
    Studio::M::Record.transaction(requires_new: true) do
      yield
      given = [status, last_response.body[0, 80]]
      raise ActiveRecord::Rollback
    end
    given
  end

  guarded = Fobrel::Contract.routes.reject { |_, may| Fobrel::Contract::OPEN.include?(may) }

  it "says of every route who may, in words that the server knows" do
    deeds = Studio::M::Membership::MAY.values.flatten.uniq
    expect(Fobrel::Contract.routes.values.uniq - deeds - Fobrel::Contract::OPEN).to eq([])
    Fobrel::Contract.routes.each do |(verb, path), may|
      expect(Fobrel::Contract.may(verb, filled(path))).to eq(may), "#{verb} #{path}"
    end
    expect(Fobrel::Contract.may("GET", "/api/nothing")).to be_nil
  end

  # Every field of every route that takes JSON, as something that it is not.
  it "answers what is of another kind with a sentence, and never with an error of ours" do
    sign_in("maren")
    odd = [nil, 3, -1, 1.5, "x", "", true, [], [nil], {}, {"x" => nil}, 10**17, "\u202e", [[[]]]]
    chance = Random.new(7)
    paths = YAML.load_file(Fobrel::Contract::FILE, aliases: true).fetch("paths")
    wrong = Fobrel::Contract.routes.keys.reject { |verb, path|
      verb == "GET" || path == "/api/session"
    }.flat_map do |verb, path|
      body = paths.dig(path, verb.downcase, "requestBody", "content", "application/json", "schema") || {}
      fields = body.fetch("properties", {}).keys
      [{}, *Array.new(6) { fields.to_h { |field| [field, odd.sample(random: chance)] } }].filter_map do |data|
        answer = tried { call(verb.downcase.to_sym, filled(path), data) }
        [verb, path, data, *answer] if answer.first >= 500 || (answer.first >= 400 && !answer.last.include?("error"))
      end
    end
    expect(wrong).to eq([])
  end

  Studio::M::Membership::MAY.each do |role, deeds|
    login = {"guest" => "ilse", "artist" => "tove", "lead" => "maren"}.fetch(role)

    it "lets a #{role} do #{deeds.join(", ")} and nothing else" do
      sign_in(login)
      # Another's deed is taken back by a lead only; one's own here.
      things["ledger"].update!(person: Studio::M::Person.find_by!(login:))
      wrong = guarded.filter_map do |(verb, path), may|
        answers = tried { call(verb.downcase.to_sym, filled(path), (verb == "GET") ? nil : {"preset_ids" => []}) }
        refused = answers.first == 403
        [verb, path, may, *answers] if refused == deeds.include?(may) || answers.first == 500
      end
      expect(wrong).to eq([])
    end
  end
end
