# frozen_string_literal: true

require "support/api"
require "json_schemer"

# What several people do and take back, in any order: what is undone is as it was, nothing newer is ever taken
# back, and everything that stays is told.
RSpec.describe "deeds and their undo", :api do
  let(:people) { %w[maren tove].to_h { |login| [login, Studio::M::Person.find_by!(login:)] } }
  let(:ids) { @first.presets.in_order.ids }
  let(:set) { @first.brush_sets.create!(name: "Kit").tap { _1.put_in_order(ids.first(4), {ids[1] => "Nibs"}) } }

  schema = JSONSchemer.schema(JSON.parse(File.read(Fobrel::History::Changes::SCHEMA)))

  def act(name, by: "maren", **given)
    Fobrel::Actions.const_get(name).call(library: @first, person: people[by], **given)
  end

  def undo(entry) = Fobrel::Actions::Undo.call(entry: entry.reload)

  def hidden = @first.presets.where.not(hidden_at: nil).order(:id).ids

  def tagged(name) = Studio::M::Tagging.joins(:tag).where(tags: {name:}).order(:preset_id).pluck(:preset_id)

  # A cell is one thing that a deed may change, by name; its value is what a person would see of it.
  def cells
    presets = @first.presets.order(:id)
    brushes = presets.pluck(
      :id,
      :hidden_at,
      :hidden_by_id,
      :category_id,
      :status_id,
      :locked_by_id,
      :current_version_id
    )
    names = %w[hidden_at hidden_by category status locked_by version]
    all = brushes.flat_map { |id, *values| names.zip(values).map { |name, value| ["#{id} #{name}", value] } }.to_h
    Studio::M::Tagging.joins(:tag).where(preset: presets).pluck("tags.name", :preset_id).each { |tag, id|
      all["#{id} tag #{tag}"] = true
    }
    @first.brush_sets.each do |one|
      sections = one.section_by_preset
      one.preset_ids_in_order.each { |id| all["#{id} in #{one.name}"] = [true, sections[id]] }
    end
    all
  end

  describe "one after the other" do
    it "never takes back a newer hiding with an older one" do
      first = act(:HidePresets, ids: [ids[0]])
      act(:RestorePresets, ids: [ids[0]])
      act(:HidePresets, by: "tove", ids: [ids[0]])
      expect(undo(first)).to eq(["1 brush had the like done again since and stays as it is."])
      expect(hidden).to eq([ids[0]])
    end

    it "never takes a tag off that was hung on anew" do
      first = act(:TagPresets, ids: [ids[0]], name: "fresh")
      act(:TagPresets, ids: [ids[0]], name: "fresh", on: false)
      act(:TagPresets, by: "tove", ids: [ids[0]], name: "fresh")
      expect(undo(first)).to include("1 brush had the like done again since and stays as it is.")
      expect(tagged("fresh")).to eq([ids[0]])
    end

    it "leaves a lock that was set again, and takes back what was opened under the name of whoever had locked" do
      brush = @first.presets.find(ids[0])
      lock = ->(who, locked) { Fobrel::Actions::LockPreset.call(preset: brush.reload, person: people[who], locked:) }
      first = lock["maren", true]
      opened = lock["tove", false]
      expect(undo(opened)).to eq([])
      expect(brush.reload.locked_by).to eq(people["maren"])
      lock["tove", false]
      lock["maren", true]
      expect(undo(first)).to eq(["“#{brush.name}” was locked by somebody since; it stays so."])
      expect(brush.reload.locked_by).to eq(people["maren"])
    end

    it "takes a tag that it made away again, unless somebody uses it" do
      made = act(:TagPresets, ids: [ids[0]], name: "brand new")
      expect([undo(made), @first.tags.exists?(name: "brand new")]).to eq([[], false])
      made = act(:TagPresets, ids: [ids[0]], name: "brand new")
      act(:TagPresets, by: "tove", ids: [ids[1]], name: "Brand New")
      expect(undo(made)).to eq(["The tag “brand new” has been changed or used since; it stays."])
      expect(tagged("brand new")).to eq([ids[1]])
    end

    it "keeps an order that somebody made since, and still takes out what the deed put in" do
      filled = Fobrel::Actions::FillSet.call(set:, person: people["maren"], ids: [ids[5], *ids.first(4).reverse])
      Fobrel::Actions::FillSet.call(set:, person: people["tove"], ids: [ids[0], ids[5], *ids[1, 3]])
      expect(undo(filled)).to eq(["“Kit” has been put in another order since; that order stays."])
      expect([set.preset_ids_in_order, set.section_by_preset]).to eq([ids.first(4), {ids[1] => "Nibs"}])
    end

    it "leaves what others put in where they put it" do
      taken = Fobrel::Actions::FillSet.call(set:, person: people["maren"], ids: [ids[0], ids[2], ids[3]])
      Fobrel::Actions::FillSet.call(set:, person: people["tove"], ids: [ids[0], ids[6], ids[2], ids[3]])
      expect(undo(taken)).to eq([])
      expect(
        [
          set.preset_ids_in_order,
          set.section_by_preset
        ]
      ).to eq([[ids[0], ids[1], ids[6], ids[2], ids[3]], {ids[1] => "Nibs"}])
    end

    it "brings drafts back to where they stood when a new name is taken back" do
      brush = @first.presets.find(ids[0])
      value = brush.current_version.value
      value = value.with("tip", value["tip"].merge("angle" => 12))
      Fobrel::Actions::KeepDraft.call(preset: brush, person: people["tove"], value:)
      before = Studio::M::Draft.pluck(:base_version_id, :document)
      renamed = act(:RenamePresets, ids: [brush.id], rules: {"suffix" => " x"})
      expect(Studio::M::Draft.pluck(:base_version_id)).to eq([brush.reload.current_version_id])
      expect([undo(renamed), Studio::M::Draft.pluck(:base_version_id, :document)]).to eq([[], before])
    end

    it "keeps a copy that was hidden, tagged or placed since" do
      entry = act(:DuplicatePresets, ids: ids.first(4))
      copies = entry.what_changed.ids_that_came("presets")
      act(:HidePresets, ids: [copies[0]])
      act(:TagPresets, ids: [copies[1]], name: "mine", by: "tove")
      set.put_in_order([copies[2]])
      kept = undo(entry)
      expect(kept.size).to eq(3)
      expect(@first.presets.where(id: copies).order(:id).ids).to eq(copies.first(3))
    end
  end

  # What a random person does; each gives an entry.
  deeds = {
    tag: ->(s, r) { s.act(:TagPresets, by: r[:who], ids: r[:some], name: r[:word]) },
    untag: ->(s, r) { s.act(:TagPresets, by: r[:who], ids: r[:some], name: r[:word], on: false) },
    hide: ->(s, r) { s.act(:HidePresets, by: r[:who], ids: r[:some]) },
    show: ->(s, r) { s.act(:RestorePresets, by: r[:who], ids: r[:some]) },
    sort: ->(s, r) { s.act(:SortPresets, by: r[:who], ids: r[:some], kind: "category", place: r[:category]) },
    status: ->(s, r) { s.act(:SortPresets, by: r[:who], ids: r[:some], kind: "status", place: r[:status]) },
    lock: ->(s, r) { Fobrel::Actions::LockPreset.call(preset: r[:brush], person: r[:person], locked: r[:flag]) },
    rename: ->(s, r) { s.act(:RenamePresets, by: r[:who], ids: r[:some], rules: {"suffix" => " #{r[:number]}"}) },
    fill: ->(s, r) {
      Fobrel::Actions::FillSet.call(set: s.set.reload, person: r[:person], ids: r[:shown], sections: r[:sections])
    },
    copy: ->(s, r) { s.act(:DuplicatePresets, by: r[:who], ids: r[:some].first(2)) }
  }.freeze

  def wish(chance, number, category, status)
    who = people.keys.sample(random: chance)
    some = ids.sample(1 + chance.rand(4), random: chance)
    shown = @first.presets.shown.ids.sample(1 + chance.rand(6), random: chance)
    {
      who:,
      person: people[who],
      some:,
      shown:,
      sections: shown.to_h { |id| [id, ["Nibs", "Wet", nil].sample(random: chance)] }.compact,
      brush: @first.presets.find(ids.sample(random: chance)),
      flag: chance.rand(2).zero?,
      word: %w[lineart fresh wet].sample(random: chance),
      category: [category, nil].sample(random: chance),
      status: [status, nil].sample(random: chance),
      number:
    }
  end

  # A deed that is refused, or nothing.
  def perhaps
    Studio::M::Record.transaction(requires_new: true) { yield }
  rescue Fobrel::Core::Problem => e
    expect(e.message).to match(/Nothing to change|cannot be a new name|is locked by/)
    nil
  end

  # Names of the cells that a deed changed.
  def changed(before, after) = (before.keys | after.keys).reject { before[_1] == after[_1] }

  10.times do |turn|
    seed = Integer(ENV.fetch("HISTORY_SEED", 400)) + turn
    it "holds what it promises, whatever is done and undone in whatever order (seed #{seed})" do
      chance = Random.new(seed)
      category = @first.categories.create!(name: "Inks")
      status = @first.statuses.create!(name: "to check", colour: "moss", shape: "bar", position: 0)
      set
      # Each deed that stands, with the cells it changed: name => [before, after].
      standing = {}
      40.times do |number|
        if standing.empty? || chance.rand(3) > 0
          kind, deed = deeds.to_a.sample(random: chance)
          before = cells
          entry = perhaps { deed[self, wish(chance, number, category, status)] } or next expect(cells).to eq(before)
          after = cells
          expect(schema.validate(entry.undo).to_a).to eq([]) if entry.undo.any?
          cells_of = changed(before, after).to_h { [_1, [before[_1], after[_1]]] }
          if cells_of.any?
            expect(entry.undoable?).to be(true),
              "#{kind} changed #{cells_of.keys} and wrote nothing down"
          end
          standing[entry] = cells_of if entry.undoable?
        else
          entry = standing.keys.sample(random: chance)
          mine = standing.delete(entry)
          later = standing.select { |other, _| other.id > entry.id }.flat_map { |_, theirs| theirs.keys }
          before = cells
          kept = undo(entry)
          after = cells
          touched = changed(before, after)
          stays = mine.reject { |name, (was, _)| after[name] == was }
          # A copy stays whole when a later deed touched anything of it.
          used = later.map(&:to_i)
          copied = mine.select { |name, (was, _)| name.end_with?("version") && was.nil? }.keys.map(&:to_i)
          stays = stays.reject { |name, _| (used & copied).include?(name.to_i) } if kept.any?
          aggregate_failures "#{entry.kind} #{entry.id}, seed #{seed}: #{kept}" do
            # Nothing but what the deed changed, and none of what a later deed changed.
            expect(touched - mine.keys).to eq([])
            expect(touched & later).to eq([])
            # What nobody touched since is as it was.
            expect(stays.keys - later).to eq([])
            # All that stays is told.
            expect(kept).not_to be_empty if stays.any?
          end
        end
      end
    end
  end
end
