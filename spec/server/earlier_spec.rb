# frozen_string_literal: true

require "support/studio"
require "json"
require "open3"
require "zlib"

# A database as an installation of 26 November 2026 left it, before the ledger kept rows; a backup of it.
RSpec.describe "what was kept before" do
  fixtures = File.expand_path("../fixtures/earlier", __dir__)
  told = JSON.parse(Zlib.gunzip(File.binread("#{fixtures}/states.json.gz")))

  # A database of its own beside that of the other specs.
  before(:all) do
    @url = ENV.fetch("DATABASE_URL").sub(%r{/[^/?]+(\?|\z)}, '/fobrel_earlier\1')
    psql(ENV.fetch("DATABASE_URL"), "DROP DATABASE IF EXISTS fobrel_earlier")
    psql(ENV.fetch("DATABASE_URL"), "CREATE DATABASE fobrel_earlier")
    psql(@url, Zlib.gunzip(File.binread("#{fixtures}/studio.sql.gz")))
    over(@url)
  end

  after(:all) do
    over(ENV.fetch("DATABASE_URL"))
    psql(ENV.fetch("DATABASE_URL"), "DROP DATABASE fobrel_earlier")
    Studio.clear
  end

  def psql(url, sql)
    output, ended = Open3.capture2e("psql", "-q", "-v", "ON_ERROR_STOP=1", url, stdin_data: sql)
    raise output unless ended.success?
  end

  def over(url)
    ActiveRecord::Base.connection_handler.clear_all_connections!
    Fobrel::Database.connect(url)
    Fobrel::Database.migrate
    Studio::M.constants.map {
      Studio::M.const_get(_1)
    }.grep(Class).select { _1 < Studio::M::Record }.each(&:reset_column_information)
  end

  def state(library)
    presets = library.presets.order(:id)
    brushes = presets.pluck(
      :id, :name, :fingerprint, :altered, :family_id, :label_id, :hidden_at, :locked_by_id, :home_edition_id
    )
    JSON.parse(
      JSON.generate(
        presets: brushes.map { |row| [*row[0, 6], !row[6].nil?, *row[7..]] },
        tags: Studio::M::Tagging.joins(:tag).where(preset: presets).order("tags.name", :preset_id).pluck(
          "tags.name",
          :preset_id
        ),
        bundles: library.bundles.order(:name).map {
          [_1.name, _1.cover_id, _1.preset_ids_in_order, _1.section_by_preset]
        },
        sets: library.brush_sets.order(:name).map { [_1.name, _1.query, _1.preset_ids_in_order, _1.section_by_preset] },
        families: library.families.order(:id).pluck(:name, :parent_id),
        labels: library.work_states.order(:id).pluck(:name),
        drafts: Studio::M::Draft.where(preset: presets).order(:preset_id).pluck(:preset_id, :fingerprint),
        recipes: library.recipes.order(:name).pluck(:name),
        seats: library.seats.order(:id).map { [_1.name, _1.preset_ids_in_order] },
        synonyms: Studio::M::TagSynonym.where(library:).order(:name).pluck(:name)
      )
    )
  end

  it "is undone deed by deed, each to the state before it" do
    library = Studio::M::Library.find(told["library"])
    expect(state(library)).to eq(told["last"])
    told["entries"].zip(told["states"]).reverse_each do |(id, kind), before|
      kept = Fobrel::Actions::Undo.call(entry: Studio::M::LedgerEntry.find(id))
      now = state(library)
      differing = before.keys.reject { now[_1] == before[_1] }
      expect([kind, kept, differing.to_h { [_1, now[_1]] }]).to eq([kind, [], differing.to_h { [_1, before[_1]] }])
    end
  end

  it "takes a plan in that waited, and takes a backup out again whole" do
    library = Studio::M::Library.find(told["second"])
    expect(state(library)).to eq(told["second_last"])
    kept = Fobrel::Actions::Undo.call(entry: Studio::M::LedgerEntry.find(told["backup_entry"]))
    expect([kept, library.presets.count, library.tags.count, library.brush_sets.count]).to eq([[], 0, 0, 0])
    arrival = Studio::M::Arrival.find(told["waiting"])
    person = Studio::M::Person.find_by!(login: "maren")
    stamp = Studio::M::Arrival.stamp(arrival.plan(person))
    Fobrel::Actions::Apply.call(arrival:, person:, stamp:)
    expect([arrival.reload.state, library.presets.count]).to eq(["applied", 3])
  end

  it "is not held up by an entry that nobody can read" do
    entry = Studio::M::LedgerEntry.last
    odd = entry.class.create!(**entry.slice(:library, :person), kind: "reset", summary: "x", undo: {"drafts" => 3})
    expect { Fobrel::Ledger::Earlier.rewrite }.to output(/ledger entry #{odd.id} \(reset\) cannot be read/).to_stderr
    expect([odd.reload.undo, odd.undoable?]).to eq([{"drafts" => 3}, false])
  end

  it "reads its backup" do
    file = Fobrel::Core::Package::Delivery::File.new("b.zip", StringIO.new(File.binread("#{fixtures}/backup.zip")))
    found = Fobrel::Core::Package::Delivery.read([file])
    expect(found.items.map(&:kind).tally).to eq("preset" => told["states"].last["presets"].size)
  end
end
