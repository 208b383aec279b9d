# frozen_string_literal: true

# Deeds by chance, as pages ask for them: each with the addresses and numbers of things that are there at that moment.
# The same seed takes the same way.
class Walk
  M = Studio::M
  WORDS = ["wet", "dry", "line work", "Fog", "Kit", "Act 3", "to check", "Späne"].freeze
  LOOKS = {colour: "moss", shape: "ring"}.freeze

  SIZE = {width: 1600, height: 1200}.freeze

  # Each deed: its verb, its address and what is sent; nil where there is nothing to do it to.
  DEEDS = {
    tag: ->(w) { [:post, w.here("taggings"), {tag: w.word, preset_ids: w.some, on: w.mostly}] },
    change_tag: ->(w) { w.of("tags") { |id| [:put, id, {name: w.word, **LOOKS, synonyms: w.words(2)}] } },
    merge_tags: ->(w) { w.of("tags") { |id| [:post, "#{id}/merge", {into: w.one(w.rows("tags"))}] } },
    remove_tag: ->(w) { w.of("tags") { |id| [:delete, id, nil] } },
    hide: ->(w) { [:post, w.here("hidings"), {preset_ids: w.some, hidden: w.mostly}] },
    destroy: ->(w) { w.rare { [:delete, w.here("hidden"), {preset_ids: w.hidden.first(1)}] if w.hidden.any? } },
    duplicate: ->(w) { w.rare { [:post, w.here("copies"), {preset_ids: w.some.first(2)}] } },
    rename: ->(w) { [:post, w.here("renames"), {preset_ids: w.some, rules: {suffix: " #{w.number}"}}] },
    place: ->(w) {
      [:post, w.here("placings"), {preset_ids: w.some, kind: "category", place: w.one(w.rows("categories"))}]
    },
    give_status: ->(w) {
      [:post, w.here("placings"), {preset_ids: w.some, kind: "status", place: w.one(w.rows("statuses"))}]
    },
    category: ->(w) { [:post, w.here("categories"), {name: w.word, parent_id: w.one(w.rows("categories"))}] },
    change_category: ->(w) {
      w.of("categories") { |id|
        [:put, id, {name: w.word, parent_id: w.one(w.rows("categories"))}]
      }
    },
    remove_category: ->(w) { w.of("categories") { |id| [:delete, id, nil] } },
    status: ->(w) { [:post, w.here("statuses"), {name: w.word, **LOOKS}] },
    change_state: ->(w) { w.of("statuses", "statuses") { |id| [:put, id, {name: w.word, **LOOKS}] } },
    remove_state: ->(w) { w.of("statuses", "statuses") { |id| [:delete, id, nil] } },
    set: ->(w) { [:post, w.here("sets"), {name: w.word, preset_ids: w.some}] },
    standing: ->(w) { [:post, w.here("sets"), {name: w.word, query: "size: over #{w.number % 40}"}] },
    fill: ->(w) { w.of("sets", "own_sets") { |id| [:put, id, {preset_ids: w.some, sections: w.sections}] } },
    name_set: ->(w) { w.of("sets", "brush_sets") { |id| [:put, "#{id}/name", {name: w.word}] } },
    remove_set: ->(w) { w.of("sets", "brush_sets") { |id| [:delete, id, nil] } },
    bundle: ->(w) { [:post, w.here("bundles"), {name: "#{w.word} #{w.number}", preset_ids: w.some}] },
    change_bundle: lambda { |w|
      w.of("bundles") { |id|
        [:put, id, {description: w.word, author: "M", licence: "CC0-1.0", preset_ids: w.some, sections: w.sections}]
      }
    },
    remove_bundle: ->(w) { w.of("bundles") { |id| [:delete, id, nil] } },
    release: ->(w) { w.of("bundles") { |id| [:post, "#{id}/releases", {notes: w.word}] } },
    withdraw: ->(w) { w.rare { w.of("releases") { |id| [:put, "#{id}/withdraw", {reason: w.word}] } } },
    export_template: ->(w) {
      [:post, w.here("export_templates"), {name: w.word, scope: "each", file: "{{ number }}.txt", body: w.word}]
    },
    change_export_template: lambda { |w|
      w.of("export_templates") { |id| [:put, id, {name: w.word, scope: "set", file: "a.txt", body: w.word}] }
    },
    remove_export_template: ->(w) { w.of("export_templates") { |id| [:delete, id, nil] } },
    canvas: ->(w) { [:put, w.here("canvas"), {width: 100 + w.number, height: 80}] },
    desk: ->(w) { w.rare { [:post, w.here("desks"), {name: "#{w.word} #{w.number}"}] } },
    change_desk: ->(w) { w.of("desks") { |id| [:put, id, {name: "Desk #{w.number}", key_count: w.number % 9}] } },
    plan: lambda { |w|
      w.of("desks") { |id|
        [:put, "#{id}/plan", {lines: w.documents.map { |one| {thing: "brush/#{one}", part: w.one(%w[startup shelf])} }}]
      }
    },
    send_to_desk: ->(w) { w.of("desks") { |id| [:post, "#{id}/send", {why: w.word}] } },
    remove_desk: ->(w) { w.rare { w.of("desks") { |id| [:delete, id, nil] } } },
    keys: ->(w) { [:put, w.here("reserved-keys"), {keys: {w.one(%w[A B C]) => w.word}}] },
    draft: ->(w) { w.brush { |id, preset| [:put, "#{id}/draft", {document: w.tuned(preset)}] } },
    discard: ->(w) { w.brush { |id, _| [:delete, "#{id}/draft", nil] } },
    save: lambda { |w|
      w.brush { |id, preset|
        kept = M::Draft.where(person_id: w.person, preset_id: preset.id).pick(:fingerprint)
        kept && [:post, "#{id}/versions", {kept:, base: preset.current_version.number, note: w.word}]
      }
    },
    variation: lambda { |w|
      w.rare { w.brush { |id, preset| [:post, "#{id}/variations", {kept: preset.fingerprint, name: "V #{w.number}"}] } }
    },
    describe: ->(w) { w.brush { |id, _| [:put, "#{id}/versions/1", {name: w.word, note: w.word}] } },
    restore: ->(w) { w.brush { |id, _| [:post, "#{id}/restore", {number: 1}] } },
    baseline: ->(w) { w.brush { |id, preset| [:put, "#{id}/baseline", {number: preset.current_version.number}] } },
    lock: ->(w) { w.brush { |id, _| [:put, "#{id}/lock", {locked: !w.mostly}] } },
    reset: ->(w) { [:post, w.here("reset"), {preset_ids: w.some, to: w.one(%w[current baseline received])}] },
    fit: ->(w) {
      [:post, w.here("revisions"), {preset_ids: w.some, as: "versions", change: "fit", share: w.number / 100.0, **SIZE}]
    },
    duplicates: ->(w) { w.rare { [:post, w.here("duplicates"), {keep: w.some.first, preset_ids: w.some.last(2)}] } },
    take: ->(w) { w.rare { [:post, w.here("taken"), {preset_ids: w.elsewhere}] } },
    proposal: ->(w) { w.elsewhere.any? && [:post, w.here("proposals"), {preset_ids: w.elsewhere, sentence: w.word}] },
    decide: lambda { |w|
      item = M::ProposalItem.joins(:proposal).where(
        state: "open",
        proposals: {library_id: w.library.id}
      ).order(:id).last
      item && [
        :post,
        "/api/proposals/#{item.proposal_id}/items/#{item.id}",
        {as: w.one(%w[new version return]), reason: w.word, name: "#{w.word} #{w.number}"}
      ]
    },
    import_brushes: lambda { |w|
      import = M::Import.where(library: w.library, state: "planned").order(:id).first or next
      [
        :post,
        "/api/imports/#{import.id}/apply",
        {stamp: M::Import.stamp(import.plan(M::Person.find(w.person)))}
      ]
    },
    follow: ->(w) {
      [
        :post,
        w.here("follows"),
        {bundle_id: w.one(w.released) || 0}
      ]
    },
    update: lambda { |w|
      follow = M::Follow.find_by(id: w.one(w.rows("follows"))) or next
      [
        :post,
        "/api/follows/#{follow.id}/update",
        {release_id: M::Release.where(bundle_id: follow.bundle_id).maximum(:id) || 0}
      ]
    },
    stay: ->(w) { w.of("follows") { |id| [:put, id, {stays: w.mostly}] } },
    unfollow: ->(w) { w.rare { w.of("follows") { |id| [:delete, id, nil] } } },
    invite: ->(w) { w.rare { [:post, w.here("invitations"), {role: "guest", name: w.word}] } },
    uninvite: ->(w) { w.of("invitations") { |id| [:delete, w.here("invitations/#{id[/\d+$/]}"), nil] } },
    role: ->(w) { w.rare { [:put, w.here("people/#{w.one(M::Person.ids)}"), {role: w.one(%w[guest artist lead])}] } },
    describe_library: ->(w) { [:put, w.here.chomp("/"), {description: w.word}] },
    storage: ->(w) { [:put, w.here("storage"), {days: {"undo" => 300 + w.number}}] },
    undo: ->(w) {
      [:post, "/api/history/#{w.one(M::HistoryEntry.where(library: w.library).last(12).map(&:id)) || 0}/undo", {}]
    }
  }.freeze

  attr_reader :library, :person

  # @param seed [Integer]
  # @param libraries [Array<Models::Library>]
  def initialize(seed, libraries)
    @chance = Random.new(seed)
    @libraries = libraries
  end

  # @param person [Models::Person] who does it
  # @return [Array(Symbol, Symbol, String, Hash)] which deed, verb, address, what is sent
  def step(person)
    @person = person.id
    loop do
      @library = one([@libraries[0], @libraries[0], @libraries[1]])
      name = one(DEEDS.keys)
      asked = DEEDS[name][self] or next
      return [name, *asked]
    end
  end

  def one(list) = list.sample(random: @chance)

  def word = one(WORDS)

  def words(count) = WORDS.sample(count, random: @chance)

  def number = @chance.rand(1..99)

  def mostly = @chance.rand(4) > 0

  # What would soon leave nothing, or make far too much.
  def rare = @chance.rand(5).zero? ? yield : nil

  def here(rest = "") = "/api/libraries/#{library.id}/#{rest}"

  def rows(table)
    return library.brush_sets.where(query: nil).order(:id).ids if table == "own_sets"
    M::Record.connection.select_values("SELECT id FROM #{table} WHERE #{mine(table)} ORDER BY id")
  end

  def of(address, table = address)
    id = one(rows(table))
    id && yield("/api/#{address}/#{id}")
  end

  def some = library.presets.ids.sort.sample(1 + @chance.rand(4), random: @chance)

  def released = M::Release.joins(:bundle).where.not(bundles: {library_id: library.id}).pluck(:bundle_id)

  def documents = library.presets.where(id: some).order(:id).pluck(:document_id)

  def hidden = library.presets.where.not(hidden_at: nil).order(:id).ids

  def elsewhere = M::Preset.shown.where.not(library_id: library.id).order(:id).ids.sample(2, random: @chance)

  def sections = some.to_h { |id| [id.to_s, one(["Nibs", "Wet"])] }

  def brush
    preset = library.presets.shown.order(:id).to_a.sample(random: @chance)
    preset && yield("/api/presets/#{preset.id}", preset)
  end

  def tuned(preset)
    preset.current_version.value.with(
      "paint",
      preset.current_version.value["paint"].merge("flow" => number / 100.0)
    ).to_h
  end

  private

  def mine(table)
    return "library_id = #{library.id}" unless table == "releases"
    "bundle_id IN (SELECT id FROM bundles WHERE library_id = #{library.id})"
  end
end
