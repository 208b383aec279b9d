# frozen_string_literal: true

require "support/api"

RSpec.describe "brushes between libraries", :api do
  let(:first) { "/api/libraries/#{@first.id}" }
  let(:own) { person("tove").own_library! }
  let(:own_path) { "/api/libraries/#{own.id}" }

  def person(login) = Studio::M::Person.find_by!(login:)

  # A brush of Tove's own.
  def brush(name = "Gull wing", size: 21, library: own, **groups)
    settings = {"tip" => {"form" => {"kind" => "round", "hardness" => 0.4}, "size" => {"base" => size}}, **groups}
    value = Fobrel::Core::Preset::Preset.build(name, settings)
    Fobrel::Actions::CreatePreset.call(library:, value:, person: person("tove"))
  end

  def proposal(*presets, sentence: "Good for far birds", **more)
    call(:post, "#{first}/proposals", {preset_ids: presets.map(&:id), sentence:, **more})
  end

  def decide(proposal, index = 0, **wish)
    items = Studio::M::Proposal.find(proposal["id"]).items.to_a
    call(:post, "/api/proposals/#{proposal["id"]}/items/#{items[index].id}", wish)
  end

  # What a set holds by now.
  def held(set) = Studio::M::BrushSet.find(set.id).preset_ids_in_order

  def inbox = call(:get, "/api/inbox")

  describe "taking" do
    it "remembers where a brush is from, and both sides show it" do
      sign_in("tove")
      source = @first.presets.shown.first
      source.taggings.create!(tag: Studio::M::Tag.called(@first, "sea"))
      taken = call(:post, "#{own_path}/taken", {preset_ids: [source.id]})
      made = Studio::M::Preset.find(taken["preset_ids"].first)
      expect(made.tags.map(&:name)).to include("sea")
      expect(made.fingerprint).to eq(source.fingerprint)
      detail = call(:get, "/api/presets/#{made.id}")
      expect(detail["came_from"]).to eq(
        {
          "library" => @first.name,
          "name" => source.name,
          "version" => 1,
          "here" => "/#{@first.id}/bench/#{source.id}"
        }
      )
      other = call(:get, "/api/presets/#{source.id}")["taken"]
      expect(other.map { |one| one.values_at("library", "name", "behind") }).to eq([[own.name, source.name, false]])
      sign_in("maren")
      expect(call(:get, "/api/presets/#{source.id}")["taken"]).to eq([])
      sign_in("tove")
      expect(call(:post, "#{own_path}/taken", {preset_ids: [source.id]})["error"]).to match(/here already/)
      call(:post, "/api/history/#{taken["entry"]["id"]}/undo")
      expect(own.presets.count).to eq(0)
    end

    it "takes nothing that is not theirs to see, and nothing into what they may not change" do
      secret = brush
      sign_in("maren")
      call(:post, "/api/libraries/#{@second.id}/taken", {preset_ids: [secret.id]})
      expect(status).to eq(404)
      sign_in("ilse")
      call(:post, "#{first}/taken", {preset_ids: [@first.presets.first.id]})
      expect(status).to eq(403)
    end
  end

  describe "proposals" do
    it "come to the leads, beside what they resemble, and are accepted as new, at a place, with tags" do
      set = @first.brush_sets.create!(name: "Birds")
      preset = brush
      sign_in("tove")
      made = proposal(preset)
      expect(made.values_at("state", "names", "left")).to eq(["open", ["Gull wing"], 1])
      sign_in("maren")
      expect(inbox["notices"].first.values_at("kind", "seen")).to eq(["proposal", false])
      expect(inbox["notices"].first["text"]).to eq(
        "Tove Lindgaard proposes “Gull wing” to “#{@first.name}”: Good for far birds"
      )
      item = call(:get, "/api/proposals/#{made["id"]}")["items"].sole
      expect(item.values_at("name", "state", "came_from")).to match(
        ["Gull wing", "open", include("library_name" => own.name, "draft" => false)]
      )
      png = call(:get, "/api/proposals/#{made["id"]}/items/#{item["id"]}/strip.png?ground=black")
      expect([status, png.b[0, 4]]).to eq([200, "\x89PNG".b])
      entry = decide(made, as: "new", tags: ["birds"], set_id: set.id)["entry"]
      got = @first.presets.find_by!(name: "Gull wing")
      expect([got.tags.map(&:name), held(set), got.came_from["library_name"]]).to eq(
        [["birds"], [got.id], own.name]
      )
      expect(got.current_version.note).to eq("Proposed by Tove Lindgaard: Good for far birds")
      call(:post, "/api/history/#{entry["id"]}/undo")
      expect([@first.presets.exists?(name: "Gull wing"), held(set)]).to eq([false, []])
      sign_in("tove")
      expect(inbox["notices"].first["text"]).to eq("Maren Oake accepted “Gull wing” as new brush")
    end

    it "become the next version of a brush that is here; what stands there now must be what was seen" do
      target = @first.presets.shown.first
      sign_in("tove")
      about = {"notes" => "Tuned"}
      value = target.current_version.value.with("tip", target.current_version.document["tip"].merge("angle" => 33))
      Fobrel::Actions::KeepDraft.call(preset: target, person: person("tove"), value: value.with("about", about))
      made = proposal(target, drafts: true)
      sign_in("maren")
      item = call(:get, "/api/proposals/#{made["id"]}")["items"].sole
      expect(
        item["resembles"].first.values_at(
          "id",
          "why",
          "words"
        )
      ).to eq([target.id, "the same brush", ["Angle 0° → 33°"]])
        .or match([target.id, "the same brush", include(/Angle/)])
      expect(decide(made, as: "version", preset_id: target.id, base: 7)["error"]).to match(/is at version 1 now/)
      decide(made, as: "version", preset_id: target.id, base: 1, reason: "At last")
      expect(target.reload.current_version.value["tip", "angle"]).to eq(33)
      expect(target.current_version.number).to eq(2)
      expect(decide(made, as: "new")["error"]).to match(/Maren Oake has accepted this one already/)
    end

    it "are returned with a reason, in part, and proposed again" do
      sign_in("tove")
      made = proposal(brush, brush("Tern", size: 9))
      sign_in("maren")
      expect(decide(made, 0, as: "return")["error"]).to match(/Say why/)
      decide(made, 0, as: "return", reason: "Too soft for ink")
      expect(call(:get, "/api/proposals/#{made["id"]}").values_at("state", "left")).to eq(["open", 1])
      decide(made, 1, as: "new", name: "Tern, far")
      expect(call(:get, "/api/proposals/#{made["id"]}")["state"]).to eq("answered")
      expect(@first.presets.exists?(name: "Tern, far")).to be(true)
      sign_in("tove")
      expect(inbox["notices"].map { |one| one["text"] }).to include("Maren Oake returned “Gull wing”: Too soft for ink")
      expect(proposal(own.presets.find_by!(name: "Gull wing")) && status).to eq(201)
    end

    it "are withdrawn by who made them while open, and seen by nobody else but the leads" do
      sign_in("tove")
      made = proposal(brush)
      sign_in("ilse")
      call(:get, "/api/proposals/#{made["id"]}")
      expect([status, call(:get, "#{first}/proposals")["proposals"]]).to eq([404, []])
      sign_in("maren")
      expect(call(:delete, "/api/proposals/#{made["id"]}")["error"]).to match(/Only Tove/)
      sign_in("tove")
      expect(call(:delete, "/api/proposals/#{made["id"]}")["state"]).to eq("withdrawn")
      call(:delete, "/api/proposals/#{made["id"]}")
      expect(status).to eq(409)
      sign_in("maren")
      expect(decide(made, as: "new")["error"]).to match(/withdrawn this proposal/)
      sign_in("tove")
      expect(decide(made, as: "new") && status).to eq(403)
      expect(proposal(@first.presets.first)["error"]).to match(/already\./)
    end

    it "are decided once by two leads at the same moment" do
      sign_in("tove")
      made = proposal(brush)
      item = Studio::M::Proposal.find(made["id"]).items.first
      stale = Studio::M::ProposalItem.find(item.id)
      maren, tove = %w[maren tove].map { |login| person(login) }
      Fobrel::Actions::DecideProposal.call(item:, person: maren, wish: {"as" => "new"})
      expect { Fobrel::Actions::DecideProposal.call(item: stale, person: tove, wish: {"as" => "new"}) }
        .to raise_error(Fobrel::Actions::Action::Overtaken)
      expect(
        [
          @first.presets.where(name: "Gull wing").count,
          person("tove").notices.where(kind: "answer").count
        ]
      ).to eq([1, 1])
    end
  end

  describe "talk" do
    it "tells whoever is named, spoke before or made it, and nobody of another library" do
      preset = @first.presets.first
      path = "#{first}/talk/preset/#{preset.id}"
      sign_in("ilse")
      call(:post, path, {text: "Lovely edge. @tove, see? mail@maren is no name", version: 1, x: 0.5, y: 0.2})
      expect(call(:post, path, {text: "x", version: 9})["error"]).to match(/no version 9/)
      expect(call(:post, path, {text: "  "}) && status).to eq(422)
      sign_in("tove")
      expect(inbox["notices"].sole.values_at("kind", "path")).to eq(["mention", "/#{@first.id}/bench/#{preset.id}"])
      call(:post, path, {text: "Yes"})
      sign_in("ilse")
      expect(inbox["notices"].sole["text"]).to eq("Tove Lindgaard about “#{preset.name}”: Yes")
      sign_in("maren")
      expect(inbox["notices"].map { |one| one["kind"] }).to eq(%w[comment comment])
      said = call(:get, path)["comments"]
      expect(
        said.map { |one|
          one.values_at("by", "version", "x")
        }
      ).to eq([["Ilse Brandow", 1, 0.5], ["Tove Lindgaard", nil, nil]])
      call(:delete, "#{first}/comments/#{said.first["id"]}")
      expect(status).to eq(404)
      call(:get, "/api/libraries/#{@second.id}/talk/preset/#{preset.id}")
      expect(status).to eq(404)
    end

    it "is quiet for whoever wants it so; what was seen stays seen" do
      sign_in("tove")
      expect(inbox["kinds"].map { |one| one["wanted"] }).to all(be(true))
      call(:put, "/api/inbox", {wanted: %w[proposal]})
      sign_in("ilse")
      call(:post, "#{first}/talk/preset/#{@first.presets.first.id}", {text: "@tove and @maren"})
      sign_in("tove")
      expect(inbox["notices"]).to eq([])
      sign_in("maren")
      expect(inbox["unseen"]).to eq(1)
      call(:post, "/api/inbox/seen", {up_to: inbox["notices"].first["id"]})
      expect([inbox["unseen"], inbox["notices"].first["seen"]]).to eq([0, true])
    end

    it "comes as a mail once a day, for whoever wants it and has not seen it yet" do
      sign_in("ilse")
      call(:post, "#{first}/talk/preset/#{@first.presets.first.id}", {text: "@tove and @maren: größer?"})
      sign_in("maren")
      call(:post, "/api/inbox/seen", {up_to: inbox["notices"].first["id"]})
      files = Fobrel::Reports::Summary.write_all(Date.new(2026, 5, 1))
      expect(files.map { |file| File.basename(file) }).to eq(["2026-05-01-#{person("tove").id}.eml"])
      mail = Mail.read(files.first)
      expect([mail.subject, mail.to]).to eq(["1 new in Fobrel", ["tove@studio.invalid"]])
      expect(mail.decoded).to include("Ilse Brandow names you", "größer?", "/bench/#{@first.presets.first.id}")
      person("tove").update!(notices_off: ["daily"])
      expect(Fobrel::Reports::Summary.write_all(Date.new(2026, 5, 2))).to eq([])
    end
  end
end
