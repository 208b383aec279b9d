# frozen_string_literal: true

require "support/api"
require_relative "../../bench/many"

# What the database finds and undoes, held against plain Ruby on the same brushes.
RSpec.describe "finding and undoing, against a plain model", :api do
  let(:person) { Studio::M::Person.find_by!(login: "maren") }

  def matches?(preset, term, value)
    word = value.downcase
    case term.name
    when "tag" then preset.tags.any? { _1.name.downcase == word }
    when "category" then preset.category&.name&.downcase == word
    when "trait" then Fobrel::Core::Curation::Traits.of(preset.current_version.value).any? { _1.include?(word) }
    when "set" then preset.brush_sets.any? { _1.name.downcase == word }
    when "size" then preset.current_version.document.dig(
      "tip",
      "size",
      "base"
    ).between?(*Fobrel::Core::Curation::Query::Range.parse(value))
    when "author" then preset.current_version.value["about", "author"].downcase.include?(word)
    when "licence" then (word == "none") ? preset.current_version.value["about",
      "licence"].empty? : preset.current_version.value["about", "licence"].downcase.include?(word)
    when "used in" then preset.brush_sets.none? && preset.desks.none?
    when "is" then {
      "untagged" => preset.tags.none?,
      "without notes" => preset.current_version.value["about", "notes"].empty?,
      "locked" => !preset.locked_by_id.nil?
    }.fetch(word)
    end
  end

  def plain(presets, query)
    presets.select do |preset|
      about = preset.current_version.value["about"]
      text = Fobrel::Core::Curation::Query.fold([preset.name, about["author"], about["notes"]].join(" "))
      query.words.all? { |word|
        text.include?(Fobrel::Core::Curation::Query.fold(word)) || preset.tags.any? { |tag|
          tag.name.downcase.include?(word.downcase)
        }
      } &&
        query.terms.all? { |term| term.values.any? { matches?(preset, term, _1) } ^ term.negated }
    end
  end

  it "finds what the plain model finds, whatever is asked" do
    Fobrel::Many.fill(@second, person, count: 90, seed: 3)
    presets = @second.presets.includes(:current_version, :tags, :category, :brush_sets, :desks).to_a
    chance = Random.new(17)
    values = {
      "tag" => Fobrel::Many::TAGS,
      "category" => Fobrel::Many::KINDS,
      "trait" => ["hard", "soft", "answers to", "jitter", "hard_pixels"],
      "set" => ["Set 1", "Set 2"],
      "size" => ["under 20", "over 30", "10 to 25"],
      "author" => %w[oake čapek 帆],
      "licence" => %w[none cc-by],
      "used in" => ["nothing"],
      "is" => ["untagged", "without notes", "locked"]
    }
    found = Array.new(120) do
      terms = values.keys.sample(1 + chance.rand(2), random: chance).map { |name|
        "#{"not " if chance.rand(4).zero?}#{name}: " \
          "#{values[name].sample(1 + chance.rand(2), random: chance).join(", ")}"
      }
      words = chance.rand(3).zero? ? [Fobrel::Many::WORDS.sample(random: chance)] : []
      query = Fobrel::Core::Curation::Query.parse([*words, *terms].join("; "))
      expected = plain(presets, query).map(&:name).sort
      search = Fobrel::Finding::Search.new(library: @second, person:, query:)
      got = search.presets.pluck(:name).sort
      # Where nothing fits to the letter, the search may come close instead.
      expect(got).to eq(expected), "#{query}: #{got} instead of #{expected}" unless search.tolerant?
      expected.size
    end
    expect(found.count(&:positive?)).to be > 60
  end

  # Everything that a deed on many brushes may touch.
  def state(library)
    presets = library.presets.order(:id)
    {
      presets: presets.pluck(
        :id,
        :name,
        :plain_name,
        :fingerprint,
        :altered,
        :category_id,
        :status_id,
        :hidden_at,
        :size,
        :traits
      ),
      tags: Studio::M::Tagging.joins(:tag).where(preset: presets).order("tags.name", :preset_id).pluck(
        "tags.name",
        :preset_id
      ),
      bundles: library.bundles.order(:name).map {
        [_1.words, _1.cover_id, _1.preset_ids_in_order, _1.section_by_preset]
      },
      sets: library.brush_sets.order(:name).map {
        [_1.name, _1.query, _1.preset_ids_in_order, _1.section_by_preset]
      },
      drafts: Studio::M::Draft.where(preset: presets).order(:preset_id).pluck(:preset_id, :fingerprint),
      desks: library.desks.order(:id).map(&:preset_ids_in_order),
      synonyms: Studio::M::TagSynonym.order(:name).pluck(:name)
    }
  end

  it "undoes every deed on many to exactly the state before it" do
    ids = @first.presets.in_order.ids
    category = @first.categories.create!(name: "Inks")
    set = @first.brush_sets.create!(name: "Kit").tap { _1.put_in_order(ids.first(4), {ids[1] => "Nibs"}) }
    bundle = @first.bundles.create!(name: "Kit", cover: @first.presets.find(ids[0])).tap {
      _1.put_in_order(ids.first(3), {ids[1] => "Nibs"})
    }
    @first.desks.create!(name: "Desk", folder: "desk-m").put_in_order(ids.last(3))
    lineart, flat = %w[lineart flat].map { |name| @first.tags.find_by!(name:) }
    flat.synonyms.create!(library: @first, name: "even")
    with = {library: @first, person:}
    # Which brushes are duplicates has specs of its own.
    allow_any_instance_of(Fobrel::Finding::Duplicates).to receive(:alike?).and_return(true)
    deeds = {
      "tag" => -> { Fobrel::Actions::TagPresets.call(**with, name: "new word", ids:) },
      "untag" => -> { Fobrel::Actions::TagPresets.call(**with, name: "lineart", ids: ids.first(5), on: false) },
      "merge tags" => -> { Fobrel::Actions::MergeTags.call(person:, from: flat, into: lineart) },
      "category" => -> { Fobrel::Actions::SortPresets.call(**with, ids:, kind: "category", place: category) },
      "hide" => -> { Fobrel::Actions::HidePresets.call(**with, ids: ids.first(3)) },
      "rename" => -> { Fobrel::Actions::RenamePresets.call(**with, ids:, rules: {"suffix" => " x"}) },
      "duplicate" => -> { Fobrel::Actions::DuplicatePresets.call(**with, ids: ids.first(3)) },
      "set" => -> { Fobrel::Actions::FillSet.call(set:, person:, ids: ids.reverse, sections: {ids[0] => "All"}) },
      "bundle" => -> {
        Fobrel::Actions::ChangeBundle.call(bundle:, person:, ids: ids.values_at(3, 1), sections: {ids[3] => "Wet"})
      },
      "remove" => -> { Fobrel::Actions::Remove.call(record: @first.brush_sets.find_by!(name: "Kit"), person:) },
      "duplicates" => -> { Fobrel::Actions::KeepDuplicate.call(**with, keep: ids[0], ids: ids[1..]) },
      "fit" => lambda {
        rows = Fobrel::Actions::RevisePresets.plan(**with, ids:, as: "versions") {
          Fobrel::Core::Curation::CanvasFit.of(_1, width: 50, height: 50, share: 0.2)
        }
        Fobrel::Actions::RevisePresets.call(**with, rows:, as: "versions", kind: "fit", deed: "fitted")
      }
    }
    deeds.each do |kind, deed|
      before = state(@first)
      entry = deed.call
      expect(entry.kind).to eq(kind)
      expect(state(@first)).not_to eq(before), "#{kind} did nothing"
      kept = Fobrel::Actions::Undo.call(entry:)
      now = state(@first)
      # A merged tag comes back as another record under the same name.
      expect(now).to eq(before), "#{kind}: #{now.reject { |key, value| before[key] == value }.inspect[0, 600]}"
      expect(kept).to eq([])
      expect {
        Fobrel::Actions::Undo.call(entry: entry.reload)
      }.to raise_error(Fobrel::Core::Problem, /undone already/)
    end
  end

  it "keeps what others did since when a deed on many is undone" do
    ids = @first.presets.in_order.ids
    entry = Fobrel::Actions::RenamePresets.call(library: @first, person:, ids:, rules: {"prefix" => "Q "})
    saved = Studio::M::Preset.find(ids[0])
    value = saved.current_version.value
    Fobrel::Actions::AddVersion.call(
      preset: saved,
      value: value.with("tip", value["tip"].merge("angle" => 33)),
      person:
    )
    kept = Fobrel::Actions::Undo.call(entry:)
    expect(kept).to eq(["“#{saved.reload.name}” was saved again since; it stays as it is."])
    expect(@first.presets.where("name LIKE 'Q %'").ids).to eq([ids[0]])
  end
end
