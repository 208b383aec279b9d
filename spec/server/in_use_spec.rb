# frozen_string_literal: true

require "support/api"

# What a day of use broke once, each as it was seen.
RSpec.describe "in use", :api do
  let(:library) { "/api/libraries/#{@first.id}" }
  let(:ids) { @first.presets.in_order.ids }

  before { sign_in("maren") }

  def found(query) = call(:get, "#{library}/brushes?q=#{Rack::Utils.escape(query)}")

  def names(query) = found(query)["presets"].map { _1["name"] }

  def svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><circle cx="5" cy="5" r="4"/></svg>'

  describe "the search" do
    before {
      %w[Harbour Chalk Fog].zip(ids) { |name, id|
        call(:post, "#{library}/renames", {preset_ids: [id], rules: {name: name}})
      }
    }

    it "finds letters that changed places or are missing" do
      expect(%w[habrour chlk harbuor].map { names(_1) }).to eq([["Harbour"], ["Chalk"], ["Harbour"]])
      expect([found("habrour")["tolerant"], found("harbour")["tolerant"]]).to eq([true, false])
    end

    it "finds what stands under the strips" do
      by_trait = ->(trait) {
        @first.presets.where(
          "? = ANY(traits)",
          trait
        ).or(@first.presets.where("trait_words LIKE ?", "%#{trait}%")).count
      }
      expect(found("jitter")["total"]).to be >= [by_trait["jitter"], 1].max
      expect(found("answers to pressure")["total"]).to be >= 1
      expect(found("trait: answers to pressure")["total"]).to eq(
        call(:get, "#{library}/facets")["traits"].find {
          _1["key"] == "answers to pressure"
        }["count"]
      )
    end

    it "puts an exact name first, then names, then the rest" do
      call(:post, "#{library}/renames", {preset_ids: [ids[3]], rules: {name: "A fog bank"}})
      document = call(:get, "/api/presets/#{ids[4]}")["document"]
      save_tuned(
        "/api/presets/#{ids[4]}",
        document.merge("about" => document["about"].merge("notes" => "for fog")),
        base: 1
      )
      expect(names("fog").first(2)).to eq(["Fog", "A fog bank"])
      expect(names("fog").size).to be > 2
    end

    it "understands a size without its colon" do
      expect(found("size under 20")["query"]).to eq("size: under 20")
      expect(names("size under 20")).to eq(names("size: under 20"))
    end
  end

  it "fits many as drafts, with a step back on each" do
    call(
      :put,
      "/api/presets/#{ids[0]}/draft",
      {
        document: call(:get, "/api/presets/#{ids[0]}")["document"].then { |d|
          d.merge("tip" => d["tip"].merge("size" => {"base" => 300}))
        }
      }
    )
    was = ids.to_h { |id| [id, call(:get, "/api/presets/#{id}").then { |got| (got["draft"] || got)["document"] }] }
    entry = call(
      :post,
      "#{library}/revisions",
      {change: "fit", width: 20, height: 10, share: 0.5, preset_ids: ids, as: "drafts"}
    )["entry"]
    expect(
      ids.map { |id|
        call(:get, "/api/presets/#{id}")["draft"]["document"].dig("tip", "size", "base")
      }.uniq
    ).to eq([5])
    size = ->(document) { document.dig("tip", "size", "base") }
    expect(
      ids.first(3).map { |id|
        size[call(:post, "/api/presets/#{id}/steps", {go: "back"})["document"]]
      }
    ).to eq(
      ids.first(3).map {
        size[was[_1]]
      }
    )
    ids.first(3).each { |id| call(:post, "/api/presets/#{id}/steps", {go: "forth"}) }
    expect(call(:post, "/api/history/#{entry["id"]}/undo", {})["kept"]).to eq([])
    expect(
      ids.map { |id|
        call(:get, "/api/presets/#{id}").then { |got|
          size[(got["draft"] || got)["document"]]
        }
      }
    ).to eq(
      ids.map {
        size[was[_1]]
      }
    )
  end

  describe "Import" do
    it "ends the work of an import that was discarded meanwhile" do
      plan = deliver(@second, {"a.svg" => svg})
      import = Studio::M::Import.find(plan["id"])
      import.update!(state: "applying")
      task = Studio::M::Task.create!(
        library: @second,
        person: Studio::M::Person.find_by!(login: "maren"),
        kind: "ApplyImport",
        about: {"import" => import.id},
        message: "Taking in"
      )
      import.update!(state: "left", task:)
      Fobrel::Jobs::ApplyImport.run(task.id)
      expect([task.reload.state, task.message]).to match(["failed", /was discarded. Nothing was imported/])
      reading = Studio::M::Task.create!(
        library: @second,
        kind: "ReadImport",
        about: {"import" => import.id},
        message: "Reading"
      )
      Fobrel::Jobs::ReadImport.run(reading.id)
      expect(reading.reload.state).to eq("failed")
      again = deliver(@second, {"a.svg" => svg})
      Studio::M::Import.find(again["id"]).update!(state: "applying")
      expect([call(:delete, "/api/imports/#{again["id"]}")["error"], status]).to match([/is under way/, 422])
    end

    it "proposes the bundle and the set of a release, and undoes them" do
      bundle = call(
        :post,
        "#{library}/bundles",
        {name: "Quay kit", preset_ids: ids.first(3), sections: {ids[1].to_s => "Wet"}}
      )
      call(:put, "/api/bundles/#{bundle["id"]}", {licence: "CC-BY-4.0", description: "For the quay"})
      release = call(:post, "/api/bundles/#{bundle["id"]}/releases", {number: "1.0.0", notes: ""})
      plan = deliver(@second, {"k.zip" => call(:get, "/api/releases/#{release["id"]}/package")})
      expect(plan["where"]).to eq({"bundle" => true, "set" => "Quay kit"})
      apply(plan)
      made = call(:get, "/api/libraries/#{@second.id}/bundles")["bundles"]
      expect(
        made.map {
          _1.values_at("name", "description", "licence")
        }
      ).to eq([["Quay kit", "For the quay", "CC-BY-4.0"]])
      expect([made.first["preset_ids"].size, made.first["sections"].values]).to eq([3, ["Wet"]])
      expect(@second.brush_sets.find_by!(name: "Quay kit").preset_ids_in_order).to eq(made.first["preset_ids"])
      call(:post, "/api/history/#{Studio::M::HistoryEntry.last.id}/undo", {})
      expect([@second.bundles.count, @second.brush_sets.count, @second.presets.count]).to eq([0, 0, 0])
    end

    it "goes on with the other files where one cannot be taken, and takes none twice" do
      watched = Fobrel::Jobs::WatchedFolder
      FileUtils.rm_rf(watched.root)
      folder, other = [@first, @second].map { FileUtils.mkdir_p(watched.of(_1)).first }
      bytes = Fobrel::Demo::Drawing.tip("anchor", 40)
      [" ", "#{"n" * 246}.png", "good.png"].each { File.binwrite(File.join(folder, _1), bytes) }
      File.binwrite(File.join(other, "elsewhere.png"), bytes)
      seen = {}
      expect { 4.times { seen = watched.look(seen) } }.not_to output(/ENAMETOOLONG/).to_stderr
      expect(
        [
          @first.imports.count,
          @second.imports.count,
          Dir.children(folder) - [".being-taken"],
          Dir.children(File.join(folder, ".being-taken"))
        ]
      ).to eq([3, 1, ["taken"], []])
      # One that cannot be moved away is not read, and told of once, by another process too.
      File.binwrite(File.join(other, "stuck.png"), bytes)
      allow(File).to receive(:rename).and_raise(Errno::EACCES)
      2.times { seen = {} and 4.times { seen = watched.look(seen) } }
      told = @second.imports.where(name: "stuck.png")
      expect(
        told.map { |one|
          [
            one.state,
            one.files.count,
            one.items.pluck(:kind, :sentence)
          ]
        }
      ).to match(
        [
          [
            "planned",
            0,
            [["unreadable", /cannot be moved out of the watched folder \(permission denied\), so it was not read/]]
          ]
        ]
      )
    end

    it "follows no link that somebody laid into it, wherever" do
      watched = Fobrel::Jobs::WatchedFolder
      FileUtils.rm_rf(watched.root)
      outside = Dir.mktmpdir
      secret = Fobrel::Demo::Drawing.tip("anchor", 40)
      File.binwrite("#{outside}/secret.png", secret)
      folder = FileUtils.mkdir_p(watched.of(@first)).first
      File.symlink("#{outside}/secret.png", "#{folder}/link.png")
      FileUtils.mkdir_p("#{folder}/set")
      File.symlink(outside, "#{folder}/set/more")
      File.binwrite("#{folder}/set/own.png", Fobrel::Demo::Drawing.tip("gull", 40))
      seen = {}
      5.times { seen = watched.look(seen) }
      expect(@first.imports.flat_map { |one| one.files.pluck(:name) }).to eq(["set/own.png"])
      # What is taken is not laid through a link, nor is anything cleaned away behind one.
      FileUtils.rm_rf("#{folder}/taken")
      File.symlink(outside, "#{folder}/taken")
      File.binwrite("#{folder}/next.png", Fobrel::Demo::Drawing.tip("fish", 40))
      expect { 5.times { seen = watched.look(seen) } }.to output(/is a link/).to_stderr
      expect(Fobrel::Reports::Storage.new(@first).taken).to eq([])
      expect(Dir.children(outside)).to eq(["secret.png"])
    ensure
      FileUtils.rm_rf([outside, watched.root])
    end

    it "never reads what is too large, and takes up what a process left in the middle" do
      watched = Fobrel::Jobs::WatchedFolder
      FileUtils.rm_rf(watched.root)
      folder, other = [@first, @second].map { FileUtils.mkdir_p(watched.of(_1)).first }
      stub_const("Fobrel::Actions::Deliver::MAX_BYTES", 4000)
      File.binwrite(File.join(folder, "large.png"), "x" * 5000)
      FileUtils.mkdir_p(File.join(folder, "many"))
      4.times { |n| File.binwrite(File.join(folder, "many", "#{n}.png"), "x" * 1500) }
      FileUtils.mkdir_p(File.join(other, ".being-taken"))
      File.binwrite(File.join(other, ".being-taken", "left.png"), Fobrel::Demo::Drawing.tip("gull", 40)[0, 3000])
      seen = {}
      6.times { seen = watched.look(seen) }
      expect(
        @first.imports.map { |one|
          [
            one.name,
            one.files.count,
            one.items.first.sentence
          ]
        }
      ).to match_array(
        [
          ["large.png", 0, /more than 0 MB. It was not read and lies where it was/],
          ["many", 0, /more than 0 MB/]
        ]
      )
      expect(
        [
          @second.imports.pluck(:name),
          Dir.children(File.join(other, "taken"))
        ]
      ).to match([["left.png"], [/left\.png/]])
      expect(Dir.children(folder)).to contain_exactly("large.png", "many")
      # One of the same name is never laid over what waits there.
      File.binwrite(waits = File.join(other, ".being-taken", "same.png"), "first")
      File.binwrite(File.join(other, "same.png"), "second")
      allow(Fobrel::Actions::Deliver).to receive(:add).and_raise(IOError)
      expect { 3.times { seen = watched.look(seen) } }.to output(/same\.png/).to_stderr
      expect(
        [
          File.binread(waits),
          File.binread(File.join(other, ".being-taken", "2 same.png"))
        ]
      ).to eq(%w[first second])
    end
  end

  describe "bundles" do
    let(:bundle) { call(:post, "#{library}/bundles", {name: "Kit", preset_ids: ids.first(2)}) }
    let(:path) { "/api/bundles/#{bundle["id"]}" }

    it "take a cover picture of their own, square, and keep it through a backup" do
      wide = Vips::Image.black(90, 30, bands: 3).copy(interpretation: :srgb).draw_rect(
        [255, 0, 0],
        30,
        0,
        30,
        30,
        fill: true
      ).pngsave_buffer
      kept = call(:put, "#{path}/picture?file=cover.png", wide)
      cover = Vips::Image.new_from_buffer(call(:get, kept["picture"]), "")
      expect([cover.width, cover.height, cover.getpoint(256, 256)[0]]).to eq([512, 512, 255])
      expect(
        [
          call(:put, "#{path}/picture?file=words.png", "only words")["error"],
          status
        ]
      ).to match([/words\.png is not a PNG/, 422])
      expect(
        call(
          :get,
          "/api/bundles/#{bundle["id"]}/picture-#{"0" * 64}.png"
        )
      ).to include(
        "error" => a_string_including(
          "doesn’t exist"
        )
      )
      expect(call(:put, path, {cover: ids[0]})["bundle"].values_at("cover", "picture")).to eq([ids[0], nil])
      call(:put, "#{path}/picture?file=cover.png", wide)
      backup = exported(@first, {kind: "backup", name: "b", of: {library: true}, options: {}})
      import_brushes(@second, backup)
      expect(@second.bundles.find_by!(name: "Kit").picture).to eq(Studio::M::Bundle.find(bundle["id"]).picture)
    end

    it "count a brush that was renamed or written about as changed; offer no number where nothing changed" do
      stock = -> { call(:get, "#{path}/preflight")["findings"].find { _1["kind"] == "stock" }&.fetch("sentence").to_s }
      Studio::M::Preset.where(id: ids).update_all(origin: "received")
      first, second = @first.presets.find(ids.first(2)).map(&:name)
      expect(stock.call).to include(first, second)
      call(:post, "#{library}/renames", {preset_ids: [ids[0]], rules: {suffix: " of ours"}})
      expect([stock.call.include?(first), stock.call.include?(second)]).to eq([false, true])
      call(:put, path, {licence: "MIT"})
      call(:post, "#{path}/releases", {number: "1.0.0", notes: ""})
      flight = call(:get, "#{path}/preflight")
      expect(flight.values_at("level", "last")).to eq([nil, "1.0.0"])
      expect(
        call(
          :post,
          "#{path}/releases",
          {number: "1.0.1", notes: ""}
        )["error"]
      ).to match(/No changes since release 1.0.0/)
    end
  end

  it "prints a sheet without empty boxes, in the fonts that have the letters" do
    Studio::M::Preset.where(id: ids[0]).update_all(name: "墨の霧 🎨 हिन्दी", notes: "한글 ☂")
    pdf = Fobrel::Proofs::Sheet.new(@first.presets.find(ids.first(4)), title: "墨").pdf
    expect(%w[DroidSansFallback Symbola FreeSans].reject { pdf.include?(_1) }).to eq([])
    expect(Vips::Image.pdfload_buffer(pdf, dpi: 10).get("n-pages")).to eq(1)
    text = Fobrel::Proofs::Sheet.new(
      @first.presets.in_order.to_a.first(4),
      title: "x",
      options: {"shown" => %w[version licence]}
    )
    expect(text.instance_variable_get(:@shown)).to eq(%w[version licence])
  end

  it "warns of a word in an export template that is not known" do
    export_template = {name: "n", scope: "each", file: "f.txt", body: "{{ preset.tip.size.bse }}"}
    expect(
      call(
        :post,
        "#{library}/export-templates/preview",
        {export_template:, preset_ids: ids.first(1)}
      )["unknown"]
    ).to match([/“bse” is not known here.*“base”/])
  end

  it "writes what an example says without keeping it first" do
    wish = {kind: "export_template", name: "x", of: {preset_ids: ids.first(2)}}
    expect(call(:post, "#{library}/exports", {**wish, options: {example: "Settings as CSV"}}).lines.size).to eq(3)
    expect(
      call(
        :post,
        "#{library}/exports",
        {**wish, options: {example: "None"}}
      )["error"]
    ).to match(/no example called “None”.*Settings as CSV/)
  end

  it "gives nobody an error when the database was away and is back" do
    pool = Studio::M::Record.connection_pool
    ours = Studio::M::Record.connection.select_value("SELECT pg_backend_pid()")
    # A token that nobody has: the database is asked for it, and only its answer makes a 401.
    ask = -> {
      ApiHelp::APP.call(
        Rack::MockRequest.env_for(
          "#{library}/sets",
          "HTTP_HOST" => "localhost",
          "HTTP_AUTHORIZATION" => "Bearer none"
        )
      ).first
    }
    answers = Thread.new do
      first = Array.new(3) { ask.call }
      pool.with_connection {
        _1.execute(
          "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE pid NOT IN (pg_backend_pid(), #{ours}) AND " \
            "usename = current_user AND datname = current_database()"
        )
      }
      first + Array.new(6) { Thread.new { ask.call } }.map(&:value)
    end.value
    expect(answers).to eq([401] * 9)
  end

  # Whatever a person can make through the page, a backup carries.
  it "carries whatever the API accepts through a backup" do
    [3, 11, 27].each { |seed| carries_through(Random.new(seed)) }
  end

  letters = [
    "a",
    "B",
    "é",
    "e\u0301",
    "海",
    "🎨",
    "‍",
    "\u200B",
    "\u202E",
    " ",
    "  ",
    "\t",
    "\n",
    "\"",
    "'",
    ",",
    ";",
    ":",
    "=",
    "/",
    "\\",
    "<",
    "&",
    "%",
    "#",
    "0",
    "Ω",
    "\u00A0"
  ].freeze
  define_method(:word) { |chance, most|
    Array.new(1 + chance.rand(most)) {
      letters.sample(random: chance)
    }.join[0, most]
  }

  def carries_through(chance)
    20.times do
      verb, path, data = [
        [:post, "#{library}/taggings", {tag: word(chance, 60), preset_ids: ids.sample(2, random: chance)}],
        [:post, "#{library}/categories", {name: word(chance, 60)}],
        [:post, "#{library}/statuses", {name: word(chance, 40)}],
        [
          :post,
          "#{library}/sets",
          {
            name: word(chance, 100),
            preset_ids: ids.sample(3, random: chance),
            sections: {ids[0].to_s => word(chance, 60)}
          }
        ],
        [
          :post,
          "#{library}/sets",
          {
            name: word(chance, 100),
            query: [
              word(chance, 300),
              "size: over #{chance.rand(90)}",
              "tag: #{word(chance, 20)}",
              "#{"long " * 90}; is: draft"
            ].sample(random: chance)
          }
        ],
        [:post, "#{library}/bundles", {name: word(chance, 100), preset_ids: ids.sample(2, random: chance)}],
        [
          :post,
          "#{library}/export-templates",
          {name: word(chance, 100), scope: "each", file: "f.txt", body: word(chance, 400)}
        ],
        [:post, "#{library}/renames", {preset_ids: [ids.sample(random: chance)], rules: {name: word(chance, 190)}}],
        [:put, "/api/presets/#{ids.sample(random: chance)}/draft", {document: nil}]
      ].sample(random: chance)
      next if data[:document].nil? && verb == :put
      call(verb, path, data)
      expect(status).to be_between(200, 499), "#{verb} #{path} #{data}"
    end
    backup = exported(@first, {kind: "backup", name: "b", of: {library: true}, options: {}})
    expect(status).to eq(200), backup.to_s[0, 300]
    into = Studio::M::Library.create!(name: "From #{chance.seed}").tap { |made|
      made.memberships.create!(person: Studio::M::Person.find_by!(login: "maren"), role: "lead")
    }
    done = import_brushes(into, backup, file: "b.zip")
    expect(done["state"]).to eq("applied")
    here, there = [@first, into].map do |one|
      {
        presets: one.presets.pluck(:name).sort,
        tags: one.tags.pluck(:name).sort,
        categories: one.categories.pluck(:name).sort,
        statuses: one.statuses.pluck(:name).sort,
        bundles: one.bundles.pluck(:name).sort,
        export_templates: one.export_templates.order(:name).pluck(:name, :body),
        sets: one.brush_sets.reload.map { |set|
          [set.name, set.query, set.preset_ids_in_order.size, set.section_by_preset.values]
        }.sort_by(&:to_s)
      }
    end
    expect(there).to eq(here)
  end
end
