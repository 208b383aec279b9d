# frozen_string_literal: true

require "support/studio"

# What a process keeps of a search is what a new search would find, whatever was done meanwhile.
RSpec.describe "what was found and is kept" do
  before(:all) do
    Studio.clear
    @library, = Studio.build
    @maren = Studio::M::Person.find_by!(login: "maren")
    Studio::M::Favourite.create!(person: @maren, preset: @library.presets.first)
  end

  after(:all) { Studio.clear }

  lines = [
    "",
    "quay",
    "quya line",
    "tag: sea",
    "tag: brine",
    "category: inks",
    "status: to check; not tag: sea",
    "is: untagged",
    "is: locked",
    "size: under 30",
    "author: oake",
    "trait: picture tip",
    "used in: nothing",
    "not used in: nothing",
    "zzzz"
  ]

  def found(line)
    search = Fobrel::Finding::Search.new(
      library: @library,
      person: @maren,
      query: Fobrel::Core::Curation::Query.parse(line)
    )
    facets = Fobrel::Finding::Facets.new(search).to_h
    [search.total, search.tolerant?, search.in_order.flat_map(&:ids), by_use(search), facets]
  end

  # In pages of five, so that one holds the last that are used and the first that are not.
  def by_use(search) = (0..11).step(5).flat_map { search.page(by: "use", offset: _1, limit: 5) }

  def times_used(id) = [Studio::M::SetItem, Studio::M::StartItem].sum { _1.where(preset_id: id).count }

  # Each brush looked at by itself.
  def one_by_one(ids)
    each = @library.presets.includes(:tags).where(id: ids).to_a
    {
      total: each.size,
      categories: each.filter_map(&:category_id).tally,
      statuses: each.filter_map(&:status_id).tally,
      authors: each.map(&:author).reject(&:empty?).tally,
      licences: each.map(&:licence).reject(&:empty?).tally,
      tags: each.flat_map(&:tag_ids).tally,
      traits: each.flat_map { |one| one.traits.flat_map { Fobrel::Core::Curation::Traits.counted(_1) } }.tally,
      states: {
        "changed" => each.count(&:altered),
        "locked" => each.count(&:locked_by_id),
        "untagged" => each.count { _1.tags.none? },
        "without notes" => each.count { _1.notes.empty? },
        "favourite" => each.count { |one| Studio::M::Favourite.exists?(person: @maren, preset_id: one.id) }
      }
    }
  end

  def counted(facets)
    facets.to_h { |name, list|
      next [name, list] if name == :total
      found = list.to_h { |one| [one[:key], one[:count]] }
      found = found.transform_keys(&:to_i) if %i[categories statuses tags].include?(name)
      [name, (name == :states) ? found.slice("changed", "locked", "untagged", "without notes", "favourite") : found]
    }
  end

  def presets = @library.presets.shown.in_order

  deeds = {
    "tagging" => -> { act(:TagPresets, name: "sea", ids: presets.ids.first(3)) },
    "another word for a tag" => lambda {
      tag = @library.tags.named("sea").first
      Fobrel::Actions::ChangeTag.call(
        tag:,
        person: @maren,
        name: "sea",
        colour: "teal",
        shape: "bar",
        synonyms: ["brine"]
      )
    },
    "a tag's new name" => lambda {
      tag = @library.tags.named("sea").first
      Fobrel::Actions::ChangeTag.call(tag:, person: @maren, name: "salt", colour: "teal", shape: "bar", synonyms: [])
    },
    "a category" => lambda {
      category = @library.categories.create!(name: "Inks")
      act(:SortPresets, ids: presets.ids.first(2), kind: "category", place: category)
    },
    "a category's new name" => lambda {
      Fobrel::Actions::ChangeGroup.call(record: @library.categories.first, person: @maren, said: {name: "Oils"})
    },
    "a status" => lambda {
      state = @library.statuses.create!(name: "to check", colour: "moss", shape: "ring", position: 0)
      act(:SortPresets, ids: presets.ids.last(2), kind: "status", place: state)
    },
    "a place in a set" => lambda {
      @set = @library.brush_sets.create!(name: "Kit")
      Fobrel::Actions::FillSet.call(set: @set, person: @maren, ids: presets.ids.first(3))
    },
    "a place in a plan" => -> { @library.desks.create!(name: "D", folder: "d").put_in_order(presets.ids.last(3)) },
    "a set that goes" => -> { Fobrel::Actions::Remove.call(record: @set, person: @maren) },
    "a lock" => -> { Fobrel::Actions::LockPreset.call(preset: presets.first, person: @maren, locked: true) },
    "hiding" => -> { act(:HidePresets, ids: presets.ids.last(1)) },
    "a new name" => -> { act(:RenamePresets, ids: presets.ids.last(1), rules: {"name" => "Zzzz"}) },
    "a category that goes" => -> { Fobrel::Actions::Remove.call(record: @library.categories.first, person: @maren) },
    "an undo" => lambda {
      Fobrel::Actions::Undo.call(entry: Studio::M::HistoryEntry.where(kind: "rename").last, person: @maren)
    }
  }

  def act(action, **how) = Fobrel::Actions.const_get(action).call(library: @library, person: @maren, **how)

  it "is what would be found now, after every deed" do
    before = lines.to_h { [_1, found(_1)] }
    deeds.each do |name, deed|
      instance_exec(&deed)
      now = lines.to_h { [_1, found(_1)] }
      expect(now).not_to eq(before), "#{name} changed nothing that is looked for"
      again = lines.to_h { [_1, found(_1)] }
      expect(again).to eq(now), name
      [Fobrel::Finding::Search, Fobrel::Finding::Facets, Fobrel::Finding::Columns].each do |owner|
        owner.send(:remove_const, :KEPT).tap { owner.const_set(:KEPT, Fobrel::Core::LruCache.new(100_000) { 1 }) }
      end
      expect(lines.to_h { [_1, found(_1)] }).to eq(now), name
      expect(now[""][3]).to eq(now[""][2].sort_by.with_index { |id, place| [-times_used(id), place] }), name
      lines.each { |line| expect(counted(now[line].last)).to eq(one_by_one(now[line][2])), "#{name}, #{line}" }
      before = now
    end
  end

  it "is read anew where the night took notes of changes that it had not seen yet" do
    found("")
    act(:TagPresets, name: "weir", ids: presets.ids.first(4))
    stub_const("#{Studio::M::BrushChange}::KEPT", 0)
    Studio::M::BrushChange.prune
    expect(Studio::M::BrushChange.where(library_id: @library.id).pluck(:preset_ids)).to eq([nil])
    now = found("")
    expect(counted(now.last)).to eq(one_by_one(now[2]))
    expect(now.last[:tags].map { _1[:count] }).to include(4)
  end
end
