# frozen_string_literal: true

require "support/api"

# Properties of importing, on packages made by a seeded generator.
RSpec.describe "importing in any order", :api do
  before do
    sign_in("maren")
    @second.presets.destroy_all
  end

  # A handful of presets, some of them the same stroke under another name or identity, some the
  # same name with another stroke.
  def pool(chance)
    strokes = Array.new(5) { |i|
      {"tip" => {"form" => {"kind" => "round", "hardness" => (i / 5.0)}, "size" => {"base" => 5 + i}}}
    }
    Array.new(8) { |i|
      Fobrel::Core::Preset::Preset.build("Brush #{chance.rand(5)}#{" b" if i.odd?}", strokes[chance.rand(5)])
    }
  end

  def pack(presets, chance)
    items = presets.map { Fobrel::Core::Package::Bundle::Item.new(preset: _1, version: 1 + chance.rand(3)) }
    sets = [
      Fobrel::Core::Package::Bundle::Group.new(
        name: "Kit #{chance.rand(2)}",
        presets: presets.map(&:id).shuffle(random: chance)
      )
    ]
    Fobrel::Core::Package::Writer.zip(Fobrel::Core::Package::Bundle.build(items:, assets: {}, sets:))
  end

  def import(bytes) = import_brushes(@second, bytes)

  def state
    @second.reload
    {
      strokes: @second.presets.includes(:current_version).map { _1.current_version.fingerprint }.sort,
      names: @second.presets.pluck(:name).map { _1.sub(/ \d+\z/, "") }.sort,
      sets: @second.brush_sets.to_h { |set|
        [
          set.name,
          Studio::M::Preset.where(id: set.preset_ids_in_order).map {
            _1.current_version.fingerprint
          }.sort
        ]
      }
    }
  end

  6.times do |seed|
    it "ends with the same strokes and sets, duplicates nothing, and is undone whole (seed #{seed})" do
      chance = Random.new(seed)
      presets = pool(chance)
      packages = Array.new(3) { pack(presets.sample(5, random: chance), chance) }
      forwards = Studio::M::Record.transaction(requires_new: true) do
        packages.each { import(_1) }
        state.tap { raise ActiveRecord::Rollback, @kept = _1 }
      end || @kept
      packages.reverse_each { import(_1) }
      packages.each { import(_1) }
      expect(state.slice(:strokes, :sets)).to eq(forwards.slice(:strokes, :sets))
      expect(state[:strokes].size).to be_between(3, 5)
      expect(state[:strokes].uniq).to eq(state[:strokes])
      expect(@second.presets.pluck(:name).map(&:downcase).uniq.size).to eq(@second.presets.count)

      @second.history_entries.where(kind: "import").order(id: :desc).each { |entry|
        expect(call(:post, "/api/history/#{entry.id}/undo", {})["kept"]).to eq([])
      }
      expect(state).to eq({strokes: [], names: [], sets: {}})
    end
  end
end
