# frozen_string_literal: true

require "support/api"
require "support/fuzz"

# bin/fuzz sends more of them.
RSpec.describe "requests by chance", :api do
  count = Integer(ENV.fetch("FUZZ", 500))
  seed = Integer(ENV.fetch("SEED", 17))
  secret = "Nobody else’s 7731"

  # One of all else that an address may name.
  def rest(maren)
    preset = @first.presets.first
    bundle = @first.bundles.create!(name: "Out", licence: "CC0-1.0", author: "M")
    bundle.put_in_order(@first.presets.ids.first(3))
    release = Fobrel::Actions::ReleaseBundle.call(bundle:, person: maren, notes: "")
    follow = Fobrel::Actions::BeginToFollow.call(library: @second, person: maren, wanted: [[bundle, release]]).first
    proposal = @first.proposals.create!(person: maren)
    value = preset.current_version.value
    from = {library: @first.id, library_name: @first.name, name: value.name, version: 1, draft: false}
    proposal.items.create!(document: value.to_h, fingerprint: value.fingerprint, came_from: from)
    sum = Fobrel::Core::Sum.in(@first.presets.flat_map { |one| one.current_version.value.needs }.first)
    said = {about: "preset", about_id: preset.id, text: "Hello"}
    {
      "releases" => [release.id],
      "follows" => [follow.id],
      "proposals" => [proposal.id],
      "items/item" => proposal.items.ids,
      "follow-rights/item" => Studio::M::FollowRight.ids,
      "people/item" => Studio::M::Person.ids,
      "comments/item" => [Studio::M::Comment.create!(library: @first, person: maren, **said).id],
      "strips/item" => [preset.document_id],
      "exports" => [export(maren).id],
      "works" => [work(maren)["id"]],
      "sample-strokes" => [maren.sample_strokes.create!(name: "Flick", width: 40, height: 40, samples: []).id],
      "invitations/item" => [Studio::M::Invitation.issue(@first, maren, role: "guest", name: "G").first.id],
      "tokens" => [Studio::M::AccessToken.issue(maren, "T").first.id],
      "export-templates" => [@first.export_templates.create!(name: "R", scope: "set", file: "a.txt", body: "x").id],
      "statuses" => [@first.statuses.create!(name: "W", colour: "moss", shape: "bar", position: 0).id],
      "tasks" => [
        Studio::M::Task.create!(
          library: @first,
          person: maren,
          kind: "ChangeMany",
          about: {},
          message: "x"
        ).id
      ],
      "fingerprint" => @first.presets.pluck(:fingerprint).first(3),
      "sum" => [sum],
      "number" => [1],
      "shape" => %w[brushes small bench],
      "name" => %w[nib],
      "about" => %w[preset version]
    }
  end

  def export(person)
    said = {kind: "kit", name: "x", file: "x", goes_to: "x", wish: {}, count: 1, size: 1, sha256: "0" * 64}
    @first.exports.create!(person:, **said)
  end

  def work(person)
    picture = Vips::Image.black(8, 8).pngsave_buffer
    read = Fobrel::Core::Tip::ApartWork.read(picture, name: "x").first
    page = Fobrel::Actions::BringPages::Page.new(read:, file: picture, name: "x")
    Fobrel::Actions::BringPages.call(library: @first, person:, work: nil, pages: [page])
  end

  it "are answered with what the contract says or a sentence, never with an error of ours or a thing of others" do
    maren = Studio::M::Person.find_by!(login: "maren")
    far = Studio::M::Library.create!(name: "#{secret} library")
    document = @first.presets.first.current_version.document
    value = Fobrel::Core::Preset::Preset[document.merge("id" => SecureRandom.uuid, "name" => "#{secret} brush")]
    other = Fobrel::Actions::CreatePreset.call(library: far, value:, person: nil)
    mine = {
      "presets" => @first.presets.ids.first(6),
      "libraries" => [@first.id, @second.id],
      "tags" => @first.tags.ids,
      "sets" => [@first.brush_sets.create!(name: "Kit").tap { _1.put_in_order(@first.presets.ids.first(3)) }.id],
      "categories" => [@first.categories.create!(name: "Inks").id],
      "desks" => [@first.desks.create!(name: "Desk", folder: "d").id],
      "bundles" => [@first.bundles.create!(name: "Pack").id],
      "imports" => [@first.imports.create!(name: "P", source: "x").id],
      "history" => [Studio::M::HistoryEntry.write(@first, maren, "tag", "x").id]
    }
    theirs = {
      "presets" => [other.id],
      "libraries" => [far.id],
      "tags" => [far.tags.create!(name: secret, colour: "teal", shape: "bar").id],
      "sets" => [far.brush_sets.create!(name: secret).id],
      "bundles" => [far.bundles.create!(name: secret).id],
      "history" => [Studio::M::HistoryEntry.write(far, maren, "tag", secret).id]
    }
    mine.merge!(rest(maren))
    fuzz = Fuzz.new(seed, mine.merge(theirs) { |_, one, two| one * 8 + two })
    people = %w[maren tove maren ilse maren]
    each = count / people.size
    wrong, slow, told = [], [], Hash.new(0)
    count.times do |turn|
      sign_in(people[turn / each % people.size]) if (turn % each).zero?
      verb, path, data = fuzz.request
      began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      begin
        body = (data.nil? || data.is_a?(String) || data.is_a?(Hash)) ? data : JSON.generate(data)
        Studio::M::Record.transaction(requires_new: true) do
          call(verb, path, body)
          # Most of what is deleted is there again for the requests after it.
          raise ActiveRecord::Rollback if verb == :delete && turn % 4 != 0
        end
      rescue Committee::InvalidResponse => e
        wrong << [verb, path, data, e.message[0, 200]]
      end
      seconds = Process.clock_gettime(Process::CLOCK_MONOTONIC) - began
      told[status] += 1
      slow << [verb, path, seconds.round(1)] if seconds > 2
      wrong << [verb, path, data, status, last_response.body[0, 160]] if status >= 500
      if last_response.body.to_s.dup.force_encoding("UTF-8").scrub.include?(secret)
        wrong << [
          verb,
          path,
          data,
          "tells of others"
        ]
      end
      sign_in(people[turn / each % people.size]) if status == 401
    end
    RSpec.configuration.reporter.message(
      "#{count} requests, seed #{seed}: #{told.sort.to_h}; over two seconds: #{slow.first(5)}"
    )
    expect(wrong.map { _1.inspect[0, 500] }).to eq([])
    # Most reach something: what is asked is there, and what is sent is of the shape that is asked for.
    expect(told[404]).to be < count * 0.35
    expect([200, 201, 202].sum { |one| told[one] }).to be > count / 6
    expect(Fobrel::History::Chain.new(@first).check[:broken]).to eq([])
  end
end
