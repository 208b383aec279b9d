# frozen_string_literal: true

require "support/api"

# Whatever comes and whatever is decided: nobody's brush is lost, nothing is doubled, and the undo
# gives the state before, by fingerprint and by order. Packages and decisions are made by a seeded
# generator.
RSpec.describe "imports of every kind", :api do
  before { sign_in("maren") }

  def allowed(state) = Fobrel::Core::Curation::ImportPlan::CHOICES.fetch(state)

  def brush(chance, id: nil, name: "Brush #{chance.rand(4)}")
    Fobrel::Core::Preset::Preset.build(
      name,
      {
        "tip" => {
          "form" => {"kind" => "round", "hardness" => chance.rand(4) / 4.0},
          "size" => {"base" => 5 + chance.rand(3)}
        },
        "about" => {"tags" => ["t#{chance.rand(3)}"]}
      },
      id: id || SecureRandom.uuid
    )
  end

  # A library that people have worked in: tuned brushes, hidden ones, sets with sections, a bundle, a start-up plan,
  # drafts.
  def furnish(chance)
    values = Array.new(7) { |i| brush(chance, name: "Brush #{i % 5}#{" b" if i > 4}") }
    presets = values.map { |value| Fobrel::Actions::CreatePreset.call(library: @second, value:, person: @maren) }
    presets.sample(2, random: chance).each { |preset|
      Fobrel::Actions::AddVersion.call(
        preset:,
        value: preset.current_version.value.with("stroke", {"spacing" => 0.2 + chance.rand.round(2)}),
        person: @maren
      )
    }
    presets.last.update!(hidden_at: Time.current)
    order = presets.first(6).shuffle(random: chance).map(&:id)
    @second.brush_sets.create!(name: "Kit 0").put_in_order(order, {order[1] => "Lines"})
    @second.bundles.create!(name: "Parcel").put_in_order(order.first(3))
    @second.desks.create!(name: "Desk", folder: "desk-#{SecureRandom.hex(3)}").put_in_order(order.last(2))
    values
  end

  def pack(chance, values)
    known = values.sample(3, random: chance).map { |value|
      chance.rand(2).zero? ? value : brush(chance, id: value.id, name: value.name)
    }
    presets = (known + Array.new(4) { brush(chance) }).uniq(&:id)
    items = presets.map { Fobrel::Core::Package::Bundle::Item.new(preset: _1, version: 1 + chance.rand(4)) }
    sets = [
      Fobrel::Core::Package::Bundle::Group.new(
        name: "Kit #{chance.rand(3)}",
        presets: presets.map(&:id).shuffle(random: chance)
      )
    ]
    Fobrel::Core::Package::Writer.zip(Fobrel::Core::Package::Bundle.build(items:, assets: {}, sets:))
  end

  def choices(chance, plan)
    items = plan["items"].to_h { |item| [item["id"].to_s, item["choices"].sample(random: chance)] }
    where = {
      "set" => ["", "Kit 0", "Fresh"].sample(random: chance),
      "mode" => %w[add replace].sample(random: chance),
      "place" => %w[start end].sample(random: chance),
      "tags" => [["guest"], []].sample(random: chance),
      "sets" => chance.rand(2).zero?
    }
    {"items" => items, "where" => where}
  end

  def state
    @second.reload
    places = [*@second.brush_sets, *@second.bundles, *@second.desks].to_h { |holder|
      [
        [holder.class.name, holder.name],
        [holder.preset_ids_in_order, holder.respond_to?(:section_by_preset) ? holder.section_by_preset : nil]
      ]
    }
    {
      brushes: @second.presets.order(:id).map {
        [_1.id, _1.name, _1.fingerprint, _1.current_version_id, _1.baseline_version_id, _1.altered, _1.hidden_at.nil?]
      },
      places:,
      tags: Studio::M::Tagging.joins(:tag).where(tags: {library_id: @second.id}).order(:preset_id, :tag_id).pluck(
        "tags.name", :preset_id
      ).sort,
      names: @second.tags.pluck(:name).sort
    }
  end

  12.times do |seed|
    it "lose nothing, double nothing, and go back whole (seed #{seed})" do
      @maren = Studio::M::Person.find_by!(login: "maren")
      chance = Random.new(seed)
      values = furnish(chance)
      before = state
      strokes = Studio::M::Version.joins(:preset).where(presets: {library: @second}).pluck(:fingerprint)
      plan = deliver(@second, {"p.zip" => pack(chance, values)})
      plan = call(:put, "/api/imports/#{plan["id"]}", choices(chance, plan))
      expect(
        plan["items"].all? { |item|
          item["choices"].include?(item["decision"]) && item["choices"] - allowed(item["state"]) == []
        }
      ).to be true
      apply(plan)
      done = call(:get, "/api/imports/#{plan["id"]}")

      # Every stroke that was here is still kept, and each brush with all its versions.
      kept = Studio::M::Version.joins(:preset).where(presets: {library: @second}).pluck(:fingerprint)
      expect(strokes.tally.reject { |print, count| kept.count(print) >= count }).to eq({})
      expect(before[:brushes].map(&:first) - @second.presets.ids).to eq([])
      # What was to be imported is shown, once.
      wanted = done["report"]["lines"].select { |line| %w[take both version replace back].include?(line["decision"]) }
      expect(wanted.map { |line| @second.presets.find(line["preset"]).hidden_at }.uniq - [nil]).to eq([])
      expect(wanted.map { _1["preset"] }.uniq.size).to eq(wanted.size)
      [*@second.brush_sets, *@second.bundles, *@second.desks].each { |holder|
        expect(holder.preset_ids_in_order.uniq).to eq(holder.preset_ids_in_order)
      }

      next expect(state).to eq(before) unless done["entry"]
      expect(call(:post, "/api/history/#{done["entry"]["id"]}/undo", {})["kept"]).to eq([])
      expect(state).to eq(before)
    end
  end

  it "hands a broken package on as a sentence, and keeps nothing of it, wherever it is broken" do
    chance = Random.new(31)
    bytes = package(@first, @first.presets.in_order.first(3))
    counts = -> {
      [
        Studio::M::Preset,
        Studio::M::Version,
        Studio::M::Tag,
        Studio::M::BrushSet,
        Studio::M::ImportPart
      ].map(&:count)
    }
    before = counts.call
    refused = Array.new(25) do
      hurt = bytes.dup
      (1 + chance.rand(3)).times { hurt.setbyte(chance.rand(hurt.bytesize), chance.rand(256)) }
      plan = deliver(@second, {"p.zip" => hurt})
      call(:delete, "/api/imports/#{plan["id"]}")
      plan["items"].map { _1["state"] }
    end
    expect(refused.count(["unreadable"])).to be > 18
    expect(counts.call).to eq(before)
  end
end
