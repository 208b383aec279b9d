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
      "desks" => @first.desks.create!(name: "Desk", folder: "desk-c"),
      "tags" => @first.tags.first,
      "categories" => @first.categories.create!(name: "Inks"),
      "statuses" => @first.statuses.create!(name: "to check", colour: "moss", shape: "bar", position: 0),
      "bundles" => bundle,
      "releases" => bundle.releases.create!(**frozen),
      "imports" => @first.imports.create!(name: "Parcel", source: "dropped"),
      "exports" => @first.exports.create!(**export),
      "works" => work,
      "follows" => follow,
      "proposals" => @first.proposals.create!(person:),
      "parts" => @first.parts.create!(name: "x", kind: "tip", sha256: "0" * 64),
      "export-templates" => @first.export_templates.create!(name: "x", scope: "each", file: "x", body: "x"),
      "tasks" => Studio::M::Task.create!(library: @first, kind: "ChangeMany", about: {}, message: "x"),
      "history" => @first.history_entries.create!(person:, kind: "tag", summary: "x")
    }
  end

  def follow
    bundle = Studio::M::Library.create!(name: "Elsewhere").bundles.create!(name: "Kit")
    @first.follows.create!(bundle:, person:)
  end

  def work
    picture = Vips::Image.black(8, 8).pngsave_buffer
    read = Fobrel::Core::Tip::ApartWork.read(picture, name: "x").first
    page = Fobrel::Actions::BringPages::Page.new(read:, file: picture, name: "x")
    Fobrel::Actions::BringPages.call(library: @first, person:, work: nil, pages: [page])
  end

  def filled(path) = Routes.filled(path, library: @first, things:)

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

  operations = Routes.all
  guarded = Routes.of_libraries

  it "says of every route who may, in words that the server knows" do
    deeds = Studio::M::Membership::MAY.values.flatten.uniq
    expect(operations.map(&:may).uniq - deeds - Fobrel::Contract::OPEN).to eq([])
    operations.each do |one|
      expect(Fobrel::Contract.operation(one.verb, filled(one.path))).to eq(one), "#{one.verb} #{one.path}"
    end
    nowhere = %w[/api/nothing /api/presets/x /api/presets/-1 /api/strips/x/list.png /api/presets/7/]
    expect(nowhere.filter_map { |path| Fobrel::Contract.operation("GET", path) }).to eq([])
  end

  # Every field of every route that takes JSON, as something that it is not.
  it "answers what is of another kind with a sentence, and never with an error of ours" do
    sign_in("maren")
    odd = [nil, 3, -1, 1.5, "x", "", true, [], [nil], {}, {"x" => nil}, 10**17, "\u202e", [[[]]]]
    chance = Random.new(7)
    sent = operations.reject { |one| one.verb == "GET" || one.path == "/api/session" }
    wrong = sent.flat_map do |one|
      fields = one.shapes.request_body&.content&.dig("application/json")&.schema&.properties.to_h.keys
      [{}, *Array.new(4) { fields.to_h { |field| [field, odd.sample(random: chance)] } }].filter_map do |data|
        answer = tried { call(one.verb.downcase.to_sym, filled(one.path), data) }
        next if answer.first < 400 || (answer.first < 500 && answer.last.include?("error"))
        [one.verb, one.path, data, *answer]
      end
    end
    expect(wrong).to eq([])
  end

  # Every value behind a question mark, as something that it is not.
  it "answers an odd address with a sentence, and never with an error of ours" do
    sign_in("maren")
    odd = ["", "x", "-1", "1.5", "9" * 30, "\u0000", "\xff"]
    wrong = operations.select { |one| one.verb == "GET" }.flat_map do |one|
      names = one.shapes.send(:query_parameter_hash).to_h.keys
      names.product(odd).filter_map do |name, value|
        asked = ["#{name}=", "#{name}[]="].map { |key| "#{filled(one.path)}?#{key}#{Rack::Utils.escape(value)}" }
        answers = asked.map { |address| tried { call(:get, address) }.first }
        [one.path, name, value, *answers] if answers.max >= 500
      end
    end
    expect(wrong).to eq([])
  end

  # A value of the shape that a schema asks for, with every field in it.
  def sample(schema, depth = 0)
    return sample(schema.all_of.first, depth) if schema.all_of&.any?
    return schema.enum.first if schema.enum
    case schema.type
    when "object" then (depth < 4) ? schema.properties.to_h.transform_values { |one| sample(one, depth + 1) } : {}
    when "array" then schema.items ? [sample(schema.items, depth + 1)] : []
    when "integer", "number" then [schema.minimum, 1].compact.max
    when "boolean" then true
    when "string" then (schema.pattern || schema.format) ? "0" * 36 : "x"
    end
  end

  # Where numbers stand in a value.
  def numbers(value, way = [])
    case value
    when Hash then value.flat_map { |key, inner| numbers(inner, [*way, key]) }
    when Array then value.each_with_index.flat_map { |inner, index| numbers(inner, [*way, index]) }
    when Numeric then [way]
    else []
    end
  end

  def with_number(value, way, number)
    JSON.parse(JSON.generate(value)).tap { |copy|
      way[..-2].inject(copy) { |inner, key|
        inner[key]
      }[way.last] = number
    }
  end

  it "takes no number that breaks something later: each of the contract, as far too large, too small and as text" do
    sign_in("maren")
    odd = [1e300, -1, "NaN", 2**63]
    # What is looked at after a deed that was taken: what its address begins with.
    looks = Routes.all.select { |one| one.verb == "GET" && !one.path.match?(/live|file|package|log/) }
    tried = Hash.new(0)
    wrong = operations.reject { |one| one.verb == "GET" || one.may == :anyone }.flat_map do |one|
      schema = one.shapes.request_body&.content&.dig("application/json")&.schema or next []
      body = sample(schema)
      body["preset_ids"] = [@first.presets.first.id] if body.is_a?(Hash) && body.key?("preset_ids")
      numbers(body).product(odd).filter_map do |way, number|
        bad = nil
        Studio::M::Record.transaction(requires_new: true) do
          call(one.verb.downcase.to_sym, filled(one.path), with_number(body, way, number))
          tried[status / 100] += 1
          bad = [status, last_response.body[0, 80]] if status >= 500
          if status < 300
            near = looks.select { |look| look.path.start_with?(one.path[%r{\A/api/[\w-]+(/\{\w+\}(/[\w-]+)?)?}]) }
            bad ||= near.filter_map { |look|
              call(:get, filled(look.path))
              [look.path, status] if status >= 500
            }.first
          end
          raise ActiveRecord::Rollback
        end
        [one.verb, one.path, way.join("."), number, *bad] if bad
      end
    end
    expect(wrong).to eq([])
    expect(tried[4]).to be > 700
    expect(tried[2]).to be > 3
  end

  it "bounds what a desk reports, so that its view stands whatever a desk says" do
    sign_in("maren")
    path = "/api/desks/#{things["desks"].id}"
    start = {
      started_at: "2026-12-01T08:00:00Z",
      ms: 86_400_000,
      failed: 1_000_000,
      loaded: [],
      stray: [],
      memory: 10**15
    }
    {ms: 1e300, memory: 2**63, failed: -1}.each do |field, number|
      answer = call(:post, "#{path}/report", {start: start.merge(field => number)})
      expect([field, answer["error"], status]).to match([field, /\.\z/, be_between(400, 422)])
    end
    call(:post, "#{path}/report", {start:})
    expect(status).to eq(200)
    [path, "/api/libraries/#{@first.id}/desks"].each { |address|
      call(:get, address) && expect(status).to(eq(200), address)
    }
  end

  it "lets a token that only reads change nothing: what changes nothing says so in the contract" do
    token = Studio::M::AccessToken.issue(person, "reader", scope: "read").last
    header("Authorization", "Bearer #{token}")
    let_through = operations.reject { |one| one.verb == "GET" || one.may == :anyone }.reject do |one|
      tried { call(one.verb.downcase.to_sym, filled(one.path), {}) }.first == 403
    end
    expect(let_through.map(&:path)).to contain_exactly(
      *%w[
        /api/libraries/{library}/strip
        /api/libraries/{library}/pad
        /api/libraries/{library}/comparison
        /api/curves
        /api/adjustments/fit
        /api/libraries/{library}/rows
        /api/libraries/{library}/uses
        /api/libraries/{library}/differences
        /api/libraries/{library}/export-templates/preview
        /api/libraries/{library}/exports
        /api/exports/{id}/repeat
        /api/libraries/{library}/parts/kit
      ]
    )
    brush = @first.presets.first
    [
      [:post, "/api/libraries/#{@first.id}/leave", {}],
      [:post, "/api/libraries/#{@first.id}/talk/preset/#{brush.id}", {words: "Hello"}],
      [:put, "/api/presets/#{brush.id}/favourite", {on: true}],
      [:put, "/api/presets/#{brush.id}/recent", {}],
      [:delete, "/api/proposals/#{things["proposals"].id}", {}]
    ].each { |verb, path, data| expect([path, call(verb, path, data)["error"], status]).to match([path, /reach/, 403]) }
  ensure
    header("Authorization", nil)
  end

  Studio::M::Membership::MAY.each do |role, deeds|
    login = {"guest" => "ilse", "artist" => "tove", "lead" => "maren"}.fetch(role)

    it "lets a #{role} do #{deeds.join(", ")} and nothing else" do
      sign_in(login)
      # Another's deed is taken back by a lead only; one's own here.
      things["history"].update!(person: Studio::M::Person.find_by!(login:))
      wrong = guarded.filter_map do |one|
        data = {"preset_ids" => []} unless one.verb == "GET"
        answers = tried { call(one.verb.downcase.to_sym, filled(one.path), data) }
        refused = answers.first == 403
        [one.verb, one.path, one.may, *answers] if refused == deeds.include?(one.may) || answers.first == 500
      end
      expect(wrong).to eq([])
    end
  end
end
