# frozen_string_literal: true

require "support/studio"

# Several people who change and take back the same at the same moment: each deed is done or refused in a
# sentence, none meets an error of the database, and nothing is lost.
RSpec.describe "several people at once" do
  before do
    Studio.clear
    @library, = Studio.build
    @people = Studio::M::Person.order(:id).to_a
    @ids = @library.presets.in_order.ids
  end

  after(:all) { Studio.clear }

  # Runs all at once, each with a connection of its own.
  #
  # @return [Array] what each gave, or the error it met
  def at_once(*deeds)
    gate = Queue.new
    threads = deeds.map do |deed|
      Thread.new do
        gate.pop
        ActiveRecord::Base.connection_pool.with_connection { deed.call }
      rescue => e
        e
      end
    end
    deeds.size.times { gate << true }
    threads.map(&:value)
  end

  it "puts a set in order and takes orders back" do
    set = @library.brush_sets.create!(name: "Kit").tap { _1.put_in_order(@ids.first(6)) }
    fill = ->(ids) { Fobrel::Actions::FillSet.call(set: set.class.find(set.id), person: @people.sample, ids:) }
    3.times do
      done = Array.new(10) { fill[@ids.sample(6)] }.select(&:undoable?)
      undos = done.map { |entry| -> { Fobrel::Actions::Undo.call(entry: entry.class.find(entry.id)) } }
      fills = Array.new(6) { -> { fill[@ids.sample(6)] } }
      given = at_once(*(undos + fills).shuffle)
      expect(given.grep(Exception)).to eq([])
      places = set.items.pluck(:preset_id)
      expect([places.uniq.size, places - @ids]).to eq([places.size, []])
    end
  end

  it "deletes permanently, restores and puts into a new set: each is done or refused, whoever is first" do
    person = @people.first
    8.times do |turn|
      ids = @ids.first(3)
      Studio::M::Preset.where(id: ids).update_all(hidden_at: Time.current)
      given = at_once(
        -> { Fobrel::Actions::DeletePresets.call(library: @library, person:, ids: [ids[turn % 3]]) },
        -> { Fobrel::Actions::RestorePresets.call(library: @library, person:, ids:) },
        -> { Fobrel::Actions::MakeSet.call(library: @library, person:, name: "Set #{turn}", ids:) }
      )
      # The API answers a brush that went meanwhile with 409 and a sentence.
      told = [Fobrel::Core::Problem, ActiveRecord::InvalidForeignKey, ActiveRecord::Deadlocked]
      expect(given.grep(Exception).reject { |error| told.any? { |one| error.is_a?(one) } }).to eq([])
      expect(Studio::M::SetItem.where.not(preset_id: Studio::M::Preset.select(:id)).count).to eq(0)
      Studio.clear
      @library, = Studio.build
      person = Studio::M::Person.order(:id).first
      @ids = @library.presets.in_order.ids
    end
  end

  it "hands plans out five times: the folder has the newest, and is said to" do
    desk = @library.desks.create!(name: "Desk", folder: "desk-at-once").tap { |one| one.put_in_order(@ids.first(2)) }
    send_to_desk = lambda do |index|
      mine = Studio::M::Desk.find(desk.id)
      Fobrel::Actions::SendToDesk.call(desk: mine, person: @people.first, why: "no. #{index}")
      Studio::M::DeskFolder.new(mine).pull(repair: true)
    end
    5.times do
      given = at_once(*(1..5).map { |index| -> { send_to_desk[index] } })
      expect(given.grep(Exception)).to eq([])
      newest = desk.reload.handed
      expect(Fobrel::Core::Startup::Folder.new(desk.path).plan["plan"]).to eq(newest.number)
      expect(Studio::M::DeskState.of(desk.reload).word).to eq("current")
    end
  ensure
    FileUtils.rm_rf(desk.path)
  end

  it "paints and keeps a strip while somebody else's longer deed has painted the same and is not done" do
    value = Fobrel::Core::Preset::Preset.build(
      "New",
      {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 31}}}
    )
    painted, done = Queue.new, Queue.new
    long = Thread.new do
      Studio::M::Record.transaction do
        Studio::M::KeptStrip.png_of(value, "list")
        painted << true
        done.pop
      end
    end
    painted.pop
    expect(at_once(-> { Studio::M::KeptStrip.png_of(value, "list") }).first).to start_with("\x89PNG".b)
    expect(Studio::M::KeptStrip.where(fingerprint: value.fingerprint, shape: "list").count).to eq(1)
    done << true
    long.join
  end

  it "writes a release without holding its bundle, and freezes none that is not what it wrote" do
    bundle = @library.bundles.create!(name: "Kit", licence: "CC0-1.0", author: "M").tap { |one|
      one.put_in_order(@ids.first(3))
    }
    other = @people.last
    writing = Fobrel::Actions::ReleaseBundle.new(bundle:, person: @people.first, notes: "")
    writing.write
    changed = at_once(
      -> {
        Fobrel::Actions::ChangeBundle.call(
          bundle: Studio::M::Bundle.find(bundle.id),
          person: other,
          ids: @ids.first(2)
        )
      }
    )
    expect(changed.grep(Exception)).to eq([])
    expect {
      Studio::M::Record.transaction {
        writing.call
      }
    }.to raise_error(Fobrel::Actions::Action::Overtaken, /Nothing was released/)
    expect(bundle.releases.count).to eq(0)
    made = Fobrel::Actions::ReleaseBundle.call(bundle: bundle.reload, person: other, notes: "")
    expect(made.items.size).to eq(2)
  end

  it "hangs one new tag on the brushes of both" do
    5.times do |turn|
      halves = @ids.each_slice(4).to_a
      given = at_once(
        *halves.map { |ids|
          -> {
            Fobrel::Actions::TagPresets.call(
              library: @library,
              person: @people.first,
              name: "new #{turn}",
              ids:
            )
          }
        }
      )
      expect(given.grep(Exception)).to eq([])
      tag = @library.tags.find_by!(name: "new #{turn}")
      expect(tag.taggings.order(:preset_id).pluck(:preset_id)).to eq(@ids.sort)
    end
  end

  it "hangs and takes off, hides and shows, removes and restores" do
    category = @library.categories.create!(name: "Inks")
    person = @people.first
    deeds = [
      -> { Fobrel::Actions::TagPresets.call(library: @library, person:, name: "lineart", ids: @ids.shuffle) },
      -> {
        Fobrel::Actions::TagPresets.call(library: @library, person:, name: "lineart", ids: @ids.shuffle, on: false)
      },
      -> { Fobrel::Actions::HidePresets.call(library: @library, person:, ids: @ids.shuffle) },
      -> { Fobrel::Actions::RestorePresets.call(library: @library, person:, ids: @ids.shuffle) },
      -> {
        Fobrel::Actions::SortPresets.call(
          library: @library,
          person:,
          ids: @ids.shuffle,
          kind: "category",
          place: category
        )
      },
      -> {
        Fobrel::Actions::RenamePresets.call(library: @library, person:, ids: @ids.shuffle, rules: {"prefix" => "x"})
      }
    ]
    4.times do
      done = at_once(*deeds.shuffle)
      # Whoever comes second may find it done.
      troubles = ->(all) { all.grep(Exception).map(&:message) - ["Nothing to change."] }
      expect(troubles[done]).to eq([])
      undos = done.grep(Studio::M::HistoryEntry).select(&:undoable?).map { |entry|
        -> {
          Fobrel::Actions::Undo.call(entry: entry.class.find(entry.id))
        }
      }
      expect(troubles[at_once(*undos.shuffle, *deeds.sample(2))]).to eq([])
    end
  end

  # What was counted of a whole library is kept while nothing changes: after each kind of change it must be what Ruby
  # counts, whoever changed it, and in whatever order their transactions end.
  describe "facets of all" do
    def count
      search = Fobrel::Finding::Search.new(
        library: @library,
        person: @people.first,
        query: Fobrel::Core::Curation::Query.parse("")
      )
      facets = Fobrel::Finding::Facets.new(search).to_h
      shown = @library.presets.shown.includes(:taggings).to_a
      told = ->(key) { facets[key].to_h { _1.values_at(:key, :count) } }
      expect(told[:tags]).to eq(shown.flat_map { |one| one.taggings.map { _1.tag_id.to_s } }.tally)
      expect(told[:categories]).to eq(shown.filter_map { _1.category_id&.to_s }.tally)
      expect(told[:states].values_at("untagged", "locked")).to eq(
        [shown.count { _1.taggings.empty? }, shown.count(&:locked_by_id)]
      )
      expect(facets[:total]).to eq(shown.size)
      told[:states]
    end

    it "are counted anew after whatever changes" do
      one, two, three = @ids.first(3).map { Studio::M::Preset.find(_1) }
      Fobrel::Actions::TagPresets.call(library: @library, person: @people.first, name: "kept", ids: @ids.first(3))
      before = count
      expect(count).to eq(before)
      Studio::M::Tagging.where(preset_id: one.id).delete_all
      expect(count["untagged"]).to eq(before["untagged"] + 1)
      two.update!(locked_by_id: @people.first.id)
      expect(count["locked"]).to eq(before["locked"] + 1)
      Studio::M::Tagging.where(tag: @library.tags.find_by!(name: "kept")).delete_all
      count
      @library.presets.where(id: three.id).hide(@people.first)
      count
      Studio::M::Preset.connection.execute("UPDATE presets SET category_id = NULL WHERE library_id = #{@library.id}")
      count
      Studio::M::Favourite.create!(person: @people.first, preset: one)
      expect(count["favourite"]).to eq(before["favourite"] + 1)
      expect(Studio::M::BrushChange.where(library_id: @library.id).count).to be > 5
    end

    it "are counted anew when a transaction ends that began before others" do
      stay, go = Queue.new, Queue.new
      slow = Thread.new do
        ActiveRecord::Base.connection_pool.with_connection do
          Studio::M::Record.transaction do
            Studio::M::Preset.find(@ids[0]).update!(locked_by_id: @people.first.id)
            stay << true
            go.pop
          end
        end
      end
      stay.pop
      Studio::M::Preset.find(@ids[1]).update!(locked_by_id: @people.first.id)
      expect(count["locked"]).to eq(1)
      go << true
      slow.join
      expect(count["locked"]).to eq(2)
    end
  end
end
