# frozen_string_literal: true

require "support/studio"

# What a process keeps of a search is what a new search would find, whatever was done meanwhile.
RSpec.describe "what was found and is kept" do
  before(:all) do
    Studio.clear
    @library, = Studio.build
    @maren = Studio::M::Person.find_by!(login: "maren")
  end

  after(:all) { Studio.clear }

  lines = [
    "",
    "quay",
    "quya line",
    "tag: sea",
    "tag: brine",
    "family: inks",
    "work state: to check; not tag: sea",
    "is: untagged",
    "is: locked",
    "size: under 30",
    "author: oake",
    "trait: picture tip",
    "zzzz"
  ]

  def found(line)
    search = Fobrel::Finding::Search.new(
      library: @library,
      person: @maren,
      query: Fobrel::Core::Curation::Query.parse(line)
    )
    facets = Fobrel::Finding::Facets.new(search).to_h
    [search.total, search.tolerant?, search.in_order("name").pluck(:id), facets]
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
    "a family" => lambda {
      family = @library.families.create!(name: "Inks")
      act(:SortPresets, ids: presets.ids.first(2), kind: "family", place: family)
    },
    "a family's new name" => lambda {
      Fobrel::Actions::ChangeGroup.call(record: @library.families.first, person: @maren, said: {name: "Oils"})
    },
    "a work state" => lambda {
      state = @library.work_states.create!(name: "to check", colour: "moss", shape: "ring", position: 0)
      act(:SortPresets, ids: presets.ids.last(2), kind: "label", place: state)
    },
    "a lock" => -> { Fobrel::Actions::LockPreset.call(preset: presets.first, person: @maren, locked: true) },
    "hiding" => -> { act(:HidePresets, ids: presets.ids.last(1)) },
    "a new name" => -> { act(:RenamePresets, ids: presets.ids.last(1), rules: {"name" => "Zzzz"}) },
    "a family that goes" => -> { Fobrel::Actions::Remove.call(record: @library.families.first, person: @maren) },
    "an undo" => lambda {
      Fobrel::Actions::Undo.call(entry: Studio::M::LedgerEntry.where(kind: "rename").last, person: @maren)
    }
  }

  def act(action, **how) = Fobrel::Actions.const_get(action).call(library: @library, person: @maren, **how)

  it "is what would be found now, after every deed" do
    deeds.each do |name, deed|
      before = lines.to_h { [_1, found(_1)] }
      instance_exec(&deed)
      now = lines.to_h { [_1, found(_1)] }
      expect(now).not_to eq(before), "#{name} changed nothing that is looked for"
      again = lines.to_h { [_1, found(_1)] }
      expect(again).to eq(now), name
      [Fobrel::Finding::Search, Fobrel::Finding::Facets].each do |owner|
        owner.send(:remove_const, :KEPT).tap { owner.const_set(:KEPT, Fobrel::Core::LruCache.new(100_000) { 1 }) }
      end
      expect(lines.to_h { [_1, found(_1)] }).to eq(now), name
    end
  end
end
