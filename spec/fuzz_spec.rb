# frozen_string_literal: true

require "support/api"
require "support/fuzz"

# bin/fuzz sends more of them.
RSpec.describe "requests by chance", :api do
  count = Integer(ENV.fetch("FUZZ", 1000))
  seed = Integer(ENV.fetch("SEED", 17))
  secret = "Nobody else’s 7731"

  it "are answered with what the contract says or a sentence, never with an error of ours or a thing of others" do
    maren = Studio::M::Person.find_by!(login: "maren")
    far = Studio::M::Library.create!(name: "#{secret} library")
    document = @first.presets.first.current_edition.document
    value = Fobrel::Core::Preset::Preset[document.merge("id" => SecureRandom.uuid, "name" => "#{secret} brush")]
    other = Fobrel::Actions::CreatePreset.call(library: far, value:, person: nil)
    mine = {
      "presets" => @first.presets.ids.first(6),
      "libraries" => [@first.id, @second.id],
      "tags" => @first.tags.ids,
      "sets" => [@first.brush_sets.create!(name: "Kit").tap { _1.put_in_order(@first.presets.ids.first(3)) }.id],
      "families" => [@first.families.create!(name: "Inks").id],
      "seats" => [@first.seats.create!(name: "Desk", folder: "d").id],
      "bundles" => [@first.bundles.create!(name: "Pack").id],
      "arrivals" => [@first.arrivals.create!(name: "P", source: "x").id],
      "ledger" => [Studio::M::LedgerEntry.write(@first, maren, "tag", "x").id]
    }
    theirs = {
      "presets" => [other.id],
      "libraries" => [far.id],
      "tags" => [far.tags.create!(name: secret, colour: "teal", shape: "bar").id],
      "sets" => [far.brush_sets.create!(name: secret).id],
      "bundles" => [far.bundles.create!(name: secret).id],
      "ledger" => [Studio::M::LedgerEntry.write(far, maren, "tag", secret).id]
    }
    fuzz = Fuzz.new(seed, mine.merge(theirs) { |_, one, two| one * 3 + two })
    people = %w[maren tove ilse]
    wrong, slow, told = [], [], Hash.new(0)
    count.times do |turn|
      sign_in(people[turn / 200 % 3]) if (turn % 200).zero?
      verb, path, data = fuzz.request
      began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      begin
        body = (data.nil? || data.is_a?(String) || data.is_a?(Hash)) ? data : JSON.generate(data)
        Studio::M::Record.transaction(requires_new: true) { call(verb, path, body) }
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
      sign_in(people[turn / 200 % 3]) if status == 401
    end
    RSpec.configuration.reporter.message(
      "#{count} requests, seed #{seed}: #{told.sort.to_h}; over two seconds: #{slow.first(5)}"
    )
    expect(wrong.map { _1.inspect[0, 500] }).to eq([])
    expect(told[200] + told[201]).to be > count / 20
    expect(Fobrel::Ledger::Chain.new(@first).check[:broken]).to eq([])
  end
end
