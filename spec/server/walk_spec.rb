# frozen_string_literal: true

require "support/api"
require "support/walk"

# A long way through the deeds of the API: five people, two libraries. WALK says how many steps (thousands for a long
# look), SEED which way.
RSpec.describe "a long walk", :api do
  steps = Integer(ENV.fetch("WALK", 100))
  seed = Integer(ENV.fetch("SEED", 18))

  # What a library is to all who work in it; what is one's own, and what is made from it, is not.
  shared = %w[
    presets
    versions
    taggings
    tags
    tag_synonyms
    brush_sets
    set_items
    categories
    statuses
    bundles
    bundle_items
    releases
    desks
    start_items
    desk_plans
    export_templates
    parts
    memberships
    follows
    followed_brushes
    libraries
    invitations
  ]
  places = %w[set_items bundle_items start_items]
  # Columns that follow from others, or say when something was.
  follows = {
    "presets" => %w[words fingerprint],
    "desks" => %w[report starts sent sent_at],
    "memberships" => %w[seen_at],
    "follows" => %w[looked_at]
  }
  # Rows are told of by what they belong to, too.
  owners = {
    "preset_id" => "presets",
    "tag_id" => "tags",
    "brush_set_id" => "brush_sets",
    "bundle_id" => "bundles",
    "desk_id" => "desks",
    "follow_id" => "follows",
    "person_id" => "people"
  }

  let(:people) { %w[maren tove ilse nils rune].to_h { |login| [login, Studio::M::Person.find_by!(login:)] } }

  before do
    {"nils" => "artist", "rune" => "lead"}.each do |login, role|
      person = Studio::M::Person.create!(login:, name: login.capitalize, password: Studio::PASSWORD)
      [@first, @second].each { |library| library.memberships.create!(person:, role:) }
    end
    Fobrel::Demo::Studio.import_brushes(@second, people["tove"], Studio.drawn.last(5))
    [@first, @second].each do |library|
      library.bundles.create!(
        name: "Kit",
        licence: "CC0-1.0",
        author: "M",
        description: "x"
      ).put_in_order(library.presets.ids.first(3))
      library.desks.create!(name: "Desk", folder: "desk-walk-#{library.id}")
    end
    @tokens = people.each_key.to_h { |login| [login, with_session(login) { sign_in(login) && @token }] }
  end

  def as(login)
    with_session(login) do
      @token = @tokens[login]
      yield.tap { @code = last_response.status }
    end
  end

  # A package of one library comes to the other, and waits.
  def bring(from, into, chance)
    picked = from.presets.shown.order(:id).to_a.sample(3, random: chance)
    as("maren") { picked.any? && deliver(into, {"kit.zip" => package(from, picked)}) } if leads?(from, into)
  end

  def leads?(*libraries) = people["maren"].memberships.where(library: libraries, role: "lead").count == libraries.size

  define_method(:picture) do
    shared.to_h do |table|
      left = %w[created_at updated_at] + follows.fetch(table, [])
      rows = Studio::M::Record.connection.select_rows(
        "SELECT id, to_jsonb(t) - '{#{left.join(",")}}'::text[] FROM (SELECT #{columns(table)} FROM #{table}) t"
      )
      # A place in an order has no number that anybody knows.
      [table, rows.to_h { |id, text| places.include?(table) ? [place(text), text.sub(/"id": \d+, /, "")] : [id, text] }]
    end
  end

  def place(text)
    JSON.parse(text).slice("brush_set_id", "bundle_id", "desk_id", "preset_id", "thing").values.join("-")
  end

  def columns(table)
    names = Studio::M::Record.connection.columns(table).reject { _1.type == :binary }.map { %("#{_1.name}") }
    names.join(", ")
  end

  # Names of what the rows that differ are, and of what they belong to.
  define_method(:differing) do |before, after|
    shared.flat_map { |table|
      rows = [before[table], after[table]]
      rows.flat_map(&:keys).uniq.reject { |id| rows[0][id] == rows[1][id] }.map { |id|
        row = JSON.parse(rows[1][id] || rows[0][id])
        ["#{table}:#{id}", *owners.filter_map { |column, owner| row[column] && "#{owner}:#{row[column]}" }]
      }
    }
  end

  # A row that changed is spoken of by what was written meanwhile: by itself, or by what it belongs to; a library by
  # what is written of its settings.
  def unexplained(rows, entries)
    told = entries.flat_map { |one| one.touched.map { _1.split(":").first(2).join(":") } + one.about }
    told += entries.filter_map { |one| "libraries:#{one.library_id}" if one.kind == "library" }
    rows.reject { |names| names.any? { told.include?(_1) } }
  end

  def wrong_prints
    Studio::M::Version.find_each.reject { |one| one.value.fingerprint == one.fingerprint }.map(&:id) +
      Studio::M::Preset.includes(:current_version).reject { _1.fingerprint == _1.current_version.fingerprint }.map(&:id)
  end

  def gaps
    {"set_items" => "brush_set_id", "bundle_items" => "bundle_id"}.flat_map { |table, of|
      Studio::M::Record.connection.select_rows(
        "SELECT '#{table}', #{of} FROM #{table} GROUP BY #{of} " \
          "HAVING count(DISTINCT position) <> count(*) OR max(position) - min(position) <> count(*) - 1"
      )
    }
  end

  def missing_pictures
    Studio::M::Record.connection.select_values(
      "SELECT sha256 FROM version_needs n WHERE NOT EXISTS (SELECT 1 FROM assets a WHERE a.sha256 = n.sha256)"
    )
  end

  it "leaves everything whole and explained, releases as they went out, and can be gone back (seed #{seed})" do
    walk = Walk.new(seed, [@first, @second])
    chance = Random.new(seed)
    start = picture
    released, told, odd, why = {}, Hash.new(0), [], {}
    steps.times do |number|
      login = people.keys.sample(random: chance)
      bring(*[@first, @second].shuffle(random: chance), chance) if (number % 20).zero?
      name, verb, path, data = walk.step(people[login])
      before, last = picture, Studio::M::HistoryEntry.maximum(:id) || 0
      answer = as(login) { Studio::M::Record.transaction(requires_new: true) { call(verb, path, data) } }
      why[name] = answer["error"] if @code >= 400 && @code != 403
      told[[name, @code / 100]] += 1
      said = "step #{number}, #{login}: #{verb} #{path} #{data.inspect[0, 200]} → #{@code}"
      expect(@code).to be < 500, said
      rows = differing(before, picture)
      odd << [said, rows.first(4)] if @code >= 400 && rows.any?
      odd << [said, gaps] if odd.empty? && gaps.any?
      entries = Studio::M::HistoryEntry.where("id > ?", last).to_a
      left = unexplained(rows, entries)
      odd << [said, entries.map { [_1.kind, _1.undoable?] }, left.first(4)] if left.any?
      Studio::M::Release.where.not(id: released.keys).each { released[_1.id] = Fobrel::Core::Sum.of(_1.package) }
    end
    done = told.select { |(_, class_), _| class_ == 2 }.to_h { |(name, _), count| [name, count] }
    never = why.except(*done.keys)
    RSpec.configuration.reporter.message(
      "#{steps} steps, seed #{seed}, #{done.values.sum} of them done: #{done.sort.map { _1.join(" ") }.join(", ")}; " \
        "never: #{never.map { |name, sentence| "#{name} (#{sentence[0, 90]})" }.join(", ")}"
    )
    expect(odd).to eq([])
    whole(released)
    back(start)
    whole(released)
  end

  def whole(released)
    expect(wrong_prints + gaps + missing_pictures).to eq([])
    expect(released.to_h { |id, _| [id, Fobrel::Core::Sum.of(Studio::M::Release.find(id).package)] }).to eq(released)
    [nil, @first, @second].each { |one| expect(Fobrel::History::Chain.new(one).check[:broken]).to eq([]) }
  end

  # From the newest to the oldest, by a lead.
  def back(start)
    people["maren"].memberships.where(library: [@first, @second]).update_all(role: "lead")
    kept = []
    newest = Studio::M::HistoryEntry.where(library: [@first, @second], undone_at: nil).order(id: :desc).to_a
    newest.each do |entry|
      next unless entry.reload.undoable?
      answer = as("maren") {
        Studio::M::Record.transaction(requires_new: true) {
          call(:post, "/api/history/#{entry.id}/undo", {})
        }
      }
      # Where somebody took the name meanwhile, it says so and does nothing.
      if [409, 422].include?(@code) && answer["error"].include?("already here")
        next kept << [
          entry.id,
          entry.summary,
          [answer["error"]]
        ]
      end
      expect(@code).to be < 300, "#{entry.kind} #{entry.summary}: #{answer}"
      kept << [entry.id, entry.summary, answer["kept"]] if answer["kept"]&.any?
    end
    for_good = Studio::M::HistoryEntry.where(library: [@first, @second], undone_at: nil).where.not(kind: "undo")
    free = for_good.flat_map { _1.about + _1.touched }.to_set
    # Versions stay, whoever takes back what made them; the brush is what it was.
    rest = differing(start, picture).reject { |names| names.first.start_with?("versions:") }
      .reject { |names| names.any? { free.include?(_1) } }
    expect(rest.size).to be <= kept.flat_map(&:last).size, [rest.first(8), kept].inspect
  end
end
