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

  it "hangs and takes off, hides and shows, removes and brings back" do
    family = @library.families.create!(name: "Inks")
    person = @people.first
    deeds = [
      -> { Fobrel::Actions::TagPresets.call(library: @library, person:, name: "lineart", ids: @ids.shuffle) },
      -> {
        Fobrel::Actions::TagPresets.call(library: @library, person:, name: "lineart", ids: @ids.shuffle, on: false)
      },
      -> { Fobrel::Actions::HidePresets.call(library: @library, person:, ids: @ids.shuffle) },
      -> { Fobrel::Actions::BringBackPresets.call(library: @library, person:, ids: @ids.shuffle) },
      -> {
        Fobrel::Actions::SortPresets.call(library: @library, person:, ids: @ids.shuffle, kind: "family", place: family)
      },
      -> {
        Fobrel::Actions::RenamePresets.call(library: @library, person:, ids: @ids.shuffle, rules: {"prefix" => "x"})
      }
    ]
    4.times do
      done = at_once(*deeds.shuffle)
      expect(done.grep(Exception)).to eq([])
      undos = done.select(&:undoable?).map { |entry|
        -> {
          Fobrel::Actions::Undo.call(entry: entry.class.find(entry.id))
        }
      }
      expect(at_once(*undos.shuffle, *deeds.sample(2)).grep(Exception)).to eq([])
    end
  end
end
