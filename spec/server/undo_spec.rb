# frozen_string_literal: true

require "support/api"

# Every deed that can be undone, in each of its branches: the tables before it and after its undo are the same. What is
# not tried here is found: the last example lists the calls in server/actions that no scenario reached.
RSpec.describe "undoing", :api do
  actions = Fobrel::Actions
  let(:maren) { Studio::M::Person.find_by!(login: "maren") }
  let(:ids) { @first.presets.in_order.ids }
  let(:brushes) { @first.presets.in_order.to_a }

  # What an undo does not take back, and why.
  left_out = {
    "history_entries" => "the undo is an entry itself",
    "versions" => "never go",
    "version_needs" => "of versions",
    "tunings" => "a person's own steps",
    "tuning_steps" => "a person's own steps",
    "notices" => "were read",
    "brush_changes" => "of the moment",
    "replies" => "of the moment",
    "tasks" => "of the moment",
    "presences" => "of the moment",
    "pulses" => "of the moment",
    "tries" => "of the moment",
    "assets" => "go in a night",
    "strips" => "painted again",
    "likenesses" => "computed again",
    "follow_rights" => "are granted, not made by the deed",
    "imports" => "remember that they came in",
    "import_items" => "of imports",
    "import_parts" => "of imports",
    "import_files" => "of imports",
    "import_chunks" => "of imports",
    "works" => "a person's own",
    "work_steps" => "a person's own",
    "work_pages" => "a person's own",
    "proposals" => "were answered",
    "proposal_items" => "were answered",
    "recents" => "a person's own",
    "baselines" => "the list of former baselines grows"
  }.freeze

  def rows(table)
    # A place in an order is made anew.
    anew = table.end_with?("_items") ? "- 'id' - 'created_at'" : ""
    sql = "SELECT to_jsonb(t) - 'updated_at' #{anew} FROM #{table} t"
    Studio::M::Record.connection.select_values(sql).map { |row| JSON.parse(row) }.sort_by(&:to_s)
  end

  define_method(:snapshot) do
    tables = Studio::M::Record.connection.tables - left_out.keys - %w[schema_migrations ar_internal_metadata]
    tables.reject { |table| table.start_with?("que_") }.to_h { |table| [table, rows(table)] }
  end

  # Runs a deed, undoes it and says what differs.
  def expect_undone
    before = snapshot
    yield
    entry = Studio::M::HistoryEntry.where.not(library_id: nil).order(:id).last
    expect(entry).to be_undoable
    changed = snapshot
    expect(changed).not_to eq(before)
    expect(Fobrel::Actions::Undo.call(entry: entry.reload)).to eq([])
    after = snapshot
    differences = before.keys.to_h { |table| [table, (after[table] - before[table]) + (before[table] - after[table])] }
    short = differences.transform_values { |rows| rows.map { |row| row.except("base", "document") } }
    expect(short.reject { |_, rows| rows.empty? }).to eq({})
  end

  def tune(preset, library: @first, **mark)
    value = preset.reload.current_version.value
    changed = value.with("tip", value.to_h["tip"].merge(mark.transform_keys(&:to_s)))
    Fobrel::Actions::AddVersion.call(preset:, value: changed, person: maren)
  end

  def draft(preset, **mark)
    value = preset.reload.current_version.value
    changed = value.with("tip", value.to_h["tip"].merge(mark.transform_keys(&:to_s)))
    Fobrel::Actions::KeepDraft.call(preset:, person: maren, value: changed)
  end

  def make_set(name = "Kit", list = ids.first(3))
    @first.brush_sets.create!(name:).tap { |set| set.put_in_order(list) }
  end

  def make_bundle(list = ids.first(4), name: "Storm kit")
    @first.bundles.create!(name:, licence: "CC0-1.0", author: "M").tap { |one| one.put_in_order(list) }
  end

  def make_desk(**more)
    Fobrel::Models::Desk.create!(library: @first, name: "Desk", folder: "desk-u", **more).tap { |desk|
      desk.put_in_order(ids.first(2))
    }
  end

  def release(bundle, number = nil)
    Fobrel::Actions::ReleaseBundle.call(bundle: bundle.reload, person: maren, number:, notes: "")
  end

  def followed(bundle, release)
    Fobrel::Actions::BeginToFollow.call(library: @second, person: maren, wanted: [[bundle, release]]).first
  end

  act = ->(name, spec, **given) { actions.const_get(name).call(person: spec.maren, **given) }
  in_first = ->(name, spec, **given) { act[name, spec, library: spec.first, **given] }
  thing = ->(spec, table, **said) { act[:MakeThing, spec, things: spec.first.public_send(table), said:] }

  # Each scenario prepares, then gives the deed.
  scenarios = {
    "hiding" => ->(s) { -> { in_first[:HidePresets, s, ids: s.ids.first(2)] } },
    "bringing back" => lambda { |s|
      in_first[:HidePresets, s, ids: s.ids.first(2)]
      -> { in_first[:RestorePresets, s, ids: s.ids.first(2)] }
    },
    "tagging with a new tag" => ->(s) { -> { in_first[:TagPresets, s, name: "brand new", ids: s.ids.first(2)] } },
    "untagging" => lambda { |s|
      in_first[:TagPresets, s, name: "brand new", ids: s.ids.first(3)]
      -> { in_first[:TagPresets, s, name: "brand new", ids: s.ids.first(2), on: false] }
    },
    "changing a tag that a search names" => lambda { |s|
      tag = s.first.tags.first
      s.first.brush_sets.create!(name: "Found", query: "tag: #{tag.name}")
      tag.synonyms.create!(library: s.first, name: "was a word")
      -> { act[:ChangeTag, s, tag:, name: "renamed", colour: "moss", shape: "drop", synonyms: ["a word"]] }
    },
    "merging tags" => lambda { |s|
      from, into = s.first.tags.order(:id).first(2)
      from.synonyms.create!(library: s.first, name: "was a word")
      s.first.brush_sets.create!(name: "Found", query: "tag: #{from.name}")
      in_first[:TagPresets, s, name: into.name, ids: from.taggings.limit(1).pluck(:preset_id)]
      -> { act[:MergeTags, s, from:, into:] }
    },
    "removing a tag" => lambda { |s|
      tag = s.first.tags.create!(name: "spare", colour: "moss", shape: "drop")
      tag.synonyms.create!(library: s.first, name: "extra")
      -> { act[:Remove, s, record: tag] }
    },
    "making, changing and removing a category with brushes and one below" => lambda { |s|
      category = thing[s, :categories, name: "Inks"]
      thing[s, :categories, name: "Below", parent_id: category.id]
      in_first[:SortPresets, s, ids: s.ids.first(3), kind: "category", place: category]
      s.first.brush_sets.create!(name: "Found", query: "category: inks")
      [
        -> { act[:ChangeGroup, s, record: category.reload, said: {name: "Pens"}] },
        -> {
          act[:Remove, s, record: category.reload]
        }
      ]
    },
    "making a category" => ->(s) { -> { thing[s, :categories, name: "Inks"] } },
    "sorting into a category" => lambda { |s|
      one, two = thing[s, :categories, name: "One"], thing[s, :categories, name: "Two"]
      in_first[:SortPresets, s, ids: s.ids.first(2), kind: "category", place: one]
      -> { in_first[:SortPresets, s, ids: s.ids.first(4), kind: "category", place: two] }
    },
    "removing a status" => lambda { |s|
      state = s.first.statuses.create!(name: "to check", colour: "moss", shape: "bar", position: 0)
      in_first[:SortPresets, s, ids: s.ids.first(3), kind: "status", place: state]
      -> { act[:Remove, s, record: state] }
    },
    "making a set, an automatic one too" => lambda { |s|
      [
        -> { in_first[:MakeSet, s, name: "New", ids: s.ids.first(3), sections: {s.ids[1] => "Nibs"}] },
        -> { in_first[:MakeSet, s, name: "Big", query: "size: over 20"] }
      ]
    },
    "filling a set" => lambda { |s|
      set = s.make_set
      -> { act[:FillSet, s, set:, ids: [s.ids[5], s.ids[1], s.ids[0]], sections: {s.ids[5] => "Wet"}] }
    },
    "splitting a set" => lambda { |s|
      set = s.make_set("Kit", s.ids.first(4))
      -> { act[:SplitSet, s, set:, name: "Half", ids: s.ids[2, 2], before: s.ids.first(4)] }
    },
    "removing a set" => lambda { |s|
      set = s.make_set
      -> { act[:Remove, s, record: set] }
    },
    "changing a bundle's words, brushes and cover" => lambda { |s|
      bundle = s.make_bundle
      [
        -> { act[:ChangeBundle, s, bundle:, words: {"description" => "New"}] },
        -> { act[:ChangeBundle, s, bundle:, ids: s.ids[2, 3], sections: {s.ids[2] => "Wet"}] },
        -> { act[:ChangeBundle, s, bundle:, cover: s.ids[1]] }
      ]
    },
    "removing a bundle" => lambda { |s|
      bundle = s.make_bundle
      -> { act[:Remove, s, record: bundle] }
    },
    "renaming, with drafts" => lambda { |s|
      s.draft(s.brushes[0], angle: 12)
      -> { in_first[:RenamePresets, s, ids: s.ids.first(2), rules: {"suffix" => " x"}] }
    },
    "duplicating" => ->(s) { -> { in_first[:DuplicatePresets, s, ids: s.ids.first(2)] } },
    "locking" => ->(s) { -> { act[:LockPreset, s, preset: s.brushes[0], locked: true] } },
    "setting a baseline" => lambda { |s|
      s.tune(s.brushes[0], angle: 20)
      -> { act[:SetBaseline, s, preset: s.brushes[0].reload, number: 2] }
    },
    "restoring a version" => lambda { |s|
      s.tune(s.brushes[0], angle: 20)
      -> { act[:RestoreVersion, s, preset: s.brushes[0].reload, number: 1] }
    },
    "resetting, with drafts" => lambda { |s|
      s.tune(s.brushes[0], angle: 20)
      s.draft(s.brushes[1], angle: 30)
      -> { in_first[:ResetPresets, s, ids: s.ids.first(2), to: "received"] }
    },
    "fitting many, as versions and as drafts" => lambda { |s|
      fit = lambda do |as|
        change = actions::FitCanvas.new(width: 20, height: 10, share: 0.5)
        rows = actions::RevisePresets.plan(library: s.first, person: s.maren, ids: s.ids, as:, &change)
        in_first[:RevisePresets, s, rows:, as:, kind: change.kind, deed: change.deed]
      end
      [-> { fit["versions"] }, -> { fit["drafts"] }]
    },
    "keeping one of several duplicates" => lambda { |s|
      copy = in_first[:DuplicatePresets, s, ids: [s.ids[0]]].what_changed.ids_that_came("presets").first
      s.make_set("Kit", [copy, s.ids[2]])
      s.make_bundle([s.ids[1], copy])
      -> { in_first[:KeepDuplicate, s, keep: s.ids[0], ids: [s.ids[0], copy]] }
    },
    "taking brushes of another library" => lambda { |s|
      -> { act[:TakeBrushes, s, library: s.second, presets: s.brushes.first(2)] }
    },
    "naming a part for the first time, changing it and throwing it away" => lambda { |s|
      picture = s.first.presets.flat_map { |one| one.current_version.value.needs }.first
      change = ->(**wish) {
        in_first[:ChangePart, s, sum: Fobrel::Core::Sum.in(picture), wish: wish.transform_keys(&:to_s)]
      }
      change[name: "Old"] if s.first.parts.any?
      [-> { change[name: "Named"] }, -> { change[name: "Named", tags: ["a"]] }]
    },
    "changing a part" => lambda { |s|
      picture = s.first.presets.flat_map { |one| one.current_version.value.needs }.first
      change = ->(**wish) {
        in_first[:ChangePart, s, sum: Fobrel::Core::Sum.in(picture), wish: wish.transform_keys(&:to_s)]
      }
      change[name: "Named"]
      -> { change[name: "Other", tags: ["a"]] }
    },
    "describing a library, its canvas and its rules" => lambda { |s|
      setting = ->(setting, value) { in_first[:SetUpLibrary, s, setting:, value:] }
      [
        -> { in_first[:DescribeLibrary, s, wish: {"name" => "Other", "description" => "New"}] },
        -> { in_first[:DescribeLibrary, s, wish: {"archived" => true}] },
        -> { setting[:canvas, {"width" => 300, "height" => 200}] },
        -> { setting[:reserved_keys, {"B" => "Brush"}] }
      ]
    },
    "changing a desk and its plan" => lambda { |s|
      template = s.make_desk(template: true, name: "All", folder: "all")
      desk = s.make_desk
      lines = s.brushes.last(2).map { |one| {"thing" => "brush/#{one.document_id}", "part" => "startup"} }
      [
        -> { act[:ChangeDesk, s, desk: desk.reload, wish: {"name" => "Other", "key_count" => 4}] },
        -> { act[:ChangeDesk, s, desk: desk.reload, wish: {"parent_id" => template.id}] },
        -> { act[:PlanStartup, s, desk: desk.reload, lines:, keys: {s.brushes.last.id => "3"}] }
      ]
    },
    "following: the first time" => lambda { |s|
      bundle = s.make_bundle
      one = s.release(bundle)
      -> { s.followed(bundle, one) }
    },
    "following: a release that changes, adds, hides, and one that brings back" => lambda { |s|
      bundle = s.make_bundle(s.ids.first(6))
      one = s.release(bundle)
      follow = s.followed(bundle, one)
      s.tune(s.brushes[0], angle: 33)
      s.tune(s.brushes[1], angle: 34)
      s.tune(s.second.presets.find_by!(name: s.brushes[1].name), hard_pixels: true)
      bundle.put_in_order(s.ids.first(3) + s.ids.last(1))
      two = s.release(bundle)
      -> { act[:TakeRelease, s, follow: follow.reload, release: two] }
    },
    "following: an earlier release that brings back what a later one hid" => lambda { |s|
      bundle = s.make_bundle(s.ids.first(6))
      one = s.release(bundle)
      follow = s.followed(bundle, one)
      bundle.put_in_order(s.ids.first(3) + s.ids.last(1))
      act[:TakeRelease, s, follow:, release: s.release(bundle)]
      -> { act[:TakeRelease, s, follow: follow.reload, release: one] }
    },
    "following: a brush that was hidden by hand" => lambda { |s|
      bundle = s.make_bundle
      follow = s.followed(bundle, s.release(bundle))
      hidden = s.second.presets.first
      act[:HidePresets, s, library: s.second, ids: [hidden.id]]
      bundle.put_in_order(s.ids.first(5))
      two = s.release(bundle)
      choices = {hidden.document_id => {"hidden" => "theirs"}}
      -> { act[:TakeRelease, s, follow:, release: two, choices:] }
    },
    "following: staying, and no more" => lambda { |s|
      bundle = s.make_bundle
      follow = s.followed(bundle, s.release(bundle))
      [
        -> { act[:ChangeFollow, s, follow: follow.reload, stays: true] },
        -> {
          act[:ChangeFollow, s, follow: follow.reload]
        }
      ]
    },
    "going back to a lock file" => lambda { |s|
      lock = actions::WriteLock.new(library: s.first).call.to_json
      s.tune(s.brushes[0], angle: 77)
      in_first[:HidePresets, s, ids: [s.ids[1]]]
      -> { in_first[:RestoreLock, s, lock:] }
    },
    "accepting a proposal into a set, as new brush and as a version" => lambda { |s|
      own = s.maren.own_library!
      taken = actions::TakeBrushes.call(library: own, person: s.maren, presets: s.brushes.first(2)).made
      taken.each { |one| s.tune(one, angle: 61) }
      proposal = actions::ProposeBrushes.call(
        library: s.first,
        person: s.maren,
        sentence: "",
        picked: actions::ProposeBrushes.picked(taken.map(&:reload), s.maren, false)
      )
      set = s.make_set
      one, two = proposal.items.order(:id).to_a
      [
        -> {
          act[:DecideProposal,
            s,
            item: one.reload,
            wish: {"as" => "new", "set_id" => set.id, "tags" => ["fine"], "name" => "Fine"}]
        },
        -> {
          act[:DecideProposal, s, item: two.reload, wish: {"as" => "version", "preset_id" => s.ids[1], "base" => 1}]
        }
      ]
    }
  }.freeze

  attr_reader :first

  attr_reader :second

  # Which calls in server/actions a scenario reached.
  sites = Set.new
  watched = Module.new do
    %i[watch came watch_order].each do |name|
      define_method(name) do |*given, **more, &block|
        site = caller_locations(1, 12).find { |one| one.path.include?("/server/actions/") }
        sites << "#{File.basename(site.path)}:#{site.lineno}" if site
        super(*given, **more, &block)
      end
    end
  end
  Fobrel::History::Changes.prepend(watched)

  scenarios.each do |name, scenario|
    it "takes back #{name}" do
      Array(scenario[self]).each { |deed| expect_undone(&deed) }
    end
  end

  it "takes back an import of a backup, of its set in a set's place, and of newer versions" do
    make_set
    make_bundle
    tag = @first.tags.first
    tag.synonyms.create!(library: @first, name: "another word")
    @first.brush_sets.create!(name: "Big", query: "size: over 5")
    @first.export_templates.create!(name: "Sizes", scope: "set", file: "a.csv", body: "x")
    @first.statuses.create!(name: "to check", colour: "moss", shape: "bar", position: 0)
    @first.update!(canvas: {"width" => 700, "height" => 500})
    category = @first.categories.create!(name: "Inks")
    brushes[2].update!(category:)
    make_desk
    sign_in("maren")
    backup = exported(@first, {kind: "backup", of: {library: true}, name: "Storm"})
    expect_undone { import_brushes(@second, backup) }
    import_brushes(@second, backup)
    here = @second.presets.shown.in_order.to_a
    old = @second.brush_sets.create!(name: "Place")
    old.put_in_order([here[5].id])
    tune(brushes[0], angle: 44)
    Fobrel::Actions::HidePresets.call(library: @second, person: maren, ids: [here[1].id])
    newer = package(@first, brushes.first(3).map(&:reload), name: "Newer")
    expect_undone { import_brushes(@second, newer, choices: {"all" => {"newer" => "version"}}) }
    into = ->(**where) { {"all" => {"newer" => "version"}, "where" => where.transform_keys(&:to_s)} }
    expect_undone { import_brushes(@second, newer, choices: into[set: "Place", place: "start"]) }
    expect_undone { import_brushes(@second, newer, choices: into[set: "Place", mode: "replace"]) }
    category = @second.categories.first.id
    expect_undone { import_brushes(@second, newer, choices: into[set: "Fresh", category:, tags: ["fine"]]) }
    own = maren.own_library!
    value = Fobrel::Core::Preset::Preset.build(
      here[3].name,
      {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 61}}}
    )
    other = Fobrel::Actions::CreatePreset.call(library: own, value:, person: maren)
    named = package(own, [other])
    %w[both replace].each { |decision|
      expect_undone {
        import_brushes(@second, named, choices: {"all" => {"named" => decision}})
      }
    }
    tune(brushes[2], angle: 55)
    kit = @first.brush_sets.find_by!(name: "Kit")
    filled = exported(@first, {kind: "package", of: {set: kit.id}, name: "Kit"})
    @second.brush_sets.find_by!(name: "Kit").put_in_order([here[0].id])
    expect_undone { import_brushes(@second, filled) }
  end

  after(:context) do
    next unless RSpec.world.filtered_examples.values.flatten.size >= scenarios.size
    calls = Dir[File.expand_path("../../server/actions/*.rb", __dir__)].flat_map do |file|
      File.readlines(file).each_with_index.filter_map { |line, index|
        "#{File.basename(file)}:#{index + 1}" if line.match?(/^[^#]*changes\.(watch|came|watch_order)\b/)
      }
    end
    # Making in the tip maker is undone in tip_maker_spec.
    missing = calls.grep_v(/\Amake_marks/) - sites.to_a
    raise "no scenario reached #{missing.join(", ")}" if missing.any?
  end
end
