# frozen_string_literal: true

require "support/api"
# A new database has run it already.
require_relative "../../db/migrate/20261126000001_rename_charge" unless defined?(RenameCharge)

# What was kept before a setting was given another name.
RSpec.describe "renaming a setting in what is kept", :api do
  def sql(text) = Studio::M::Record.connection.execute(text)

  it "writes documents the new way and follows their fingerprints everywhere, without a change to the paint" do
    sign_in("maren")
    ids = @first.presets.ids
    Fobrel::Actions::RevisePresets.call(
      library: @first,
      person: Studio::M::Person.find_by!(login: "maren"),
      as: "drafts",
      kind: "fit",
      deed: "made small",
      rows: Fobrel::Actions::RevisePresets.plan(
        library: @first,
        person: Studio::M::Person.find_by!(login: "maren"),
        ids:
      ) {
        _1.with("mark", _1["mark"].merge("size" => {"base" => 3, "least" => 1, "most" => 5000}))
      }
    )
    seat = @first.seats.create!(name: "One", folder: "one")
    seat.put_in_order(ids.first(2))
    seat.update!(handed_out_at: Time.current, handed_out: seat.planned)
    strip = Studio::M::KeptStrip.png_of(@first.presets.first.current_edition.value, "wall")
    now = facts
    go_back
    expect(Studio::M::Edition.pluck(:document).map { _1["pigment"].key?("own_paint") }.uniq).to eq([false])
    expect(facts).not_to eq(now)
    RenameCharge.new.exec_migration(Studio::M::Record.connection, :up)
    expect(facts).to eq(now)
    expect(Studio::M::Seat.find(seat.id).planned).to eq(seat.reload.handed_out)
    first = @first.presets.first
    expect(Studio::M::KeptStrip.find_by!(fingerprint: first.fingerprint, shape: "wall").png).to eq(strip)
    kept = Studio::M::LedgerEntry.last.what_changed.list
    expect(kept.map { |change| change.after["fingerprint"] }).to match_array(Studio::M::Draft.pluck(:fingerprint))
  end

  def facts
    [
      Studio::M::Edition.order(:id).pluck(:document, :fingerprint),
      Studio::M::Draft.order(:id).pluck(:document, :fingerprint),
      Studio::M::Preset.order(:id).pluck(:fingerprint),
      Studio::M::Seat.pluck(:handed_out),
      Studio::M::LedgerEntry.order(:id).pluck(:undo)
    ]
  end

  # Puts everything into the earlier writing, as an installation of before has it.
  def go_back
    prints = {}
    [Studio::M::Edition, Studio::M::Draft].each do |model|
      model.pluck(:id, :document).each do |id, document|
        pigment = document["pigment"].transform_keys { (_1 == "own_paint") ? "charge" : _1 }
        was = document.merge("pigment" => pigment)
        print = Fobrel::Core::Preset::Preset.fingerprint_of(was)
        prints[Fobrel::Core::Preset::Preset.fingerprint_of(document)] = print
        model.where(id:).update_all(document: was, fingerprint: print)
      end
    end
    prints.each do |now, was|
      %w[presets strips].each { sql("UPDATE #{_1} SET fingerprint = '#{was}' WHERE fingerprint = '#{now}'") }
      sql("UPDATE seats SET handed_out = replace(handed_out::text, '#{now}', '#{was}')::jsonb")
      sql("UPDATE ledger_entries SET undo = replace(undo::text, '#{now}', '#{was}')::jsonb")
    end
  end
end
