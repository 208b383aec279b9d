# frozen_string_literal: true

require "optparse"
require "fobrel/core"
require_relative "plain_output"
require_relative "studio"
require_relative "history_commands"
require_relative "lock_commands"
require_relative "part_commands"
require_relative "desk_commands"
require_relative "tip_commands"
require_relative "whole_commands"

module Fobrel
  # The command line: what a person or a script asks of the core, with files in and files out.
  # Exit 0: fine. 1: a problem was found. 2: wrong use.
  class CommandLine
    # Raised when a command is not written as it should be.
    class Usage < StandardError; end

    include TipCommands
    include PartCommands
    include HistoryCommands
    include LockCommands
    include DeskCommands
    include WholeCommands

    USAGE = <<~TEXT
      fobrel tip PICTURE -o TIP.png [--invert] [--no-crop] [--black 0-254] [--white 1-255] [--gamma G]
                    [--even] [--solid] [--threshold 0-1] [--specks PX] [--feather 0-1]
                    [--own [keep|unmultiply|flood]] [--json]
      fobrel tip PICTURE --frames DIR          each layer, page or frame a tip
      fobrel tip PAGE --marks -o DIR [--near 0-0.1]     each mark found a tip
      fobrel tip PAGE --grid RxC -o DIR        each cell a tip
      fobrel tip PICTURE --grain -o GRAIN.png [--quilt] [--invert]
      fobrel tip --text WORDS -o TIP.png [--font NAME] [--weight N] [--spacing S] [--curve C]
      fobrel tip --figure SHAPE -o TIP.png|TIP.svg [--points 7 …]
      fobrel stroke PRESET.json [--stroke NAME | --samples S.json] [--assets DIR] [--page WxH]
                    [--size N] [--seed N] [--colour #rrggbb] [--paper #rrggbb|none]
                    [--ground PICTURE.png] -o OUT.png [--report R.json]
      fobrel preset check|fingerprint PRESET.json [--json]
      fobrel package build DIR -o F.fobrel.zip
      fobrel package list|verify F.fobrel.zip [--json]
      fobrel package extract F.fobrel.zip [-o DIR]
      fobrel package compare OLD.fobrel.zip NEW.fobrel.zip [--json]
      fobrel desk pull DIR [--server URL] [--token T] [--desk N] [--watch [--every S]] [--repair]
      fobrel desk status DIR                   what is there; exit 1 where something differs
      fobrel desk diff DIR
      fobrel desk back DIR [--to N | --before] without an option: lists the previous plans
      fobrel desk start DIR [--report]         stands in for the painting program

      Against a running server (FOBREL_URL, FOBREL_TOKEN); --library NAME where there are several:
      fobrel import FILE… [--library NAME] [--plan | --keep | --apply] [--decide STATE=DECISION] [--json]
      fobrel export SET -o F.fobrel.zip
      fobrel kit SET -o KIT.zip
      fobrel proof SET -o F.pdf|F.zip
      fobrel template TEMPLATE SET -o F
      fobrel backup -o F.fobrel.zip
      fobrel history verify [--known SUM]       check that no entry was altered; exit 1 otherwise
      fobrel history export -o F.csv|F.jsonl
      fobrel lock write [-o fobrel.lock]       the versions a library uses now
      fobrel lock verify FILE [--folder DIR]   what differs there, or in a folder of presets; exit 1
      fobrel lock restore FILE                 restore the versions it lists
      fobrel parts list [--unused] [--json]
      fobrel parts replace PART OTHER          by name or by the first digits of its checksum; as drafts

      On the server, with its database (DATABASE_URL, or this folder's own):
      fobrel backup --all -o FILE [--with-passwords]    the whole studio, while people work
      fobrel verify FILE                       check every byte; needs no database
      fobrel restore FILE                      all of it, or nothing, into an empty database
      fobrel restore FILE --test              a test restore into a temporary database
      fobrel restore FILE --library NAME -o F.fobrel.zip     one library, as a backup of its own
      fobrel restore FILE --brush NAME [--library NAME] -o F.fobrel.zip
      fobrel password NAME                     set a new password; asks for it
    TEXT

    COMMANDS = {
      %w[tip] => :tip,
      %w[stroke] => :stroke,
      %w[preset check] => :preset_check,
      %w[preset fingerprint] => :preset_fingerprint,
      %w[package build] => :package_build,
      %w[package list] => :package_list,
      %w[package verify] => :package_verify,
      %w[package extract] => :package_extract,
      %w[package compare] => :package_compare,
      %w[desk pull] => :desk_pull,
      %w[desk status] => :desk_status,
      %w[desk diff] => :desk_diff,
      %w[desk back] => :desk_back,
      %w[desk start] => :desk_start,
      %w[import] => :import,
      %w[export] => :export,
      %w[kit] => :kit,
      %w[proof] => :proof,
      %w[template] => :export_template,
      %w[backup] => :backup,
      %w[restore] => :restore,
      %w[verify] => :verify,
      %w[password] => :password,
      %w[history verify] => :history_verify,
      %w[history export] => :history_export,
      %w[lock write] => :lock_write,
      %w[lock verify] => :lock_verify,
      %w[lock restore] => :lock_restore,
      %w[parts list] => :parts_list,
      %w[parts replace] => :parts_replace
    }.freeze

    # @param arguments [Array<String>]
    # @param out [IO] for answers
    # @param err [IO] for problems
    # @return [Integer] the exit code
    def self.run(arguments, out: $stdout, err: $stderr)
      out, err = [out, err].map { |io| PlainOutput.new(io) }
      new(arguments.dup, out).run
    rescue Usage, OptionParser::ParseError => e
      err.puts "fobrel: #{e.message}", "", USAGE
      2
    rescue Core::Problem => e
      err.puts e.message
      1
    rescue Errno::ENOENT, Errno::EISDIR, Errno::EACCES, Errno::ENOTDIR, Errno::ENOSPC => e
      err.puts "#{e.message.split(" @ ").first}: #{e.message[/ - (.*)\z/, 1]}. Nothing was written."
      1
    end

    def initialize(arguments, out)
      @arguments = arguments
      @out = out
      @options = {}
    end

    def run
      return help if @arguments.empty? || %w[help --help -h].include?(@arguments.first)
      words, action = COMMANDS.find { |words, _| @arguments.first(words.size) == words }
      raise Usage, "there is no command “#{@arguments.first(2).join(" ")}”" unless action
      @arguments.shift(words.size)
      send(action)
    end

    private

    Stroke = Core::Stroke
    Preset = Core::Preset::Preset
    private_constant :Stroke, :Preset

    def help
      @out.puts USAGE
      0
    end

    # Reads the options a command takes, and its one argument.
    def argument(name, &)
      arguments(name, 1, &).first
    end

    # @param count [Integer, Range] how many there must be
    def arguments(name, count)
      parser = OptionParser.new
      parser.on("--json") { @options[:json] = true }
      yield parser if block_given?
      parser.parse!(@arguments)
      fits = count.is_a?(Range) ? count.cover?(@arguments.size) : count == @arguments.size
      raise Usage, "name #{(count == 1) ? "one #{name}" : "the #{name}"}" unless fits
      @arguments
    end

    def output(parser)
      parser.on("-o FILE") { @options[:output] = _1 }
    end

    def in_library(parser)
      parser.on("--library NAME") { @options[:library] = _1 }
    end

    def wanted_output = @options[:output] || raise(Usage, "give the output file with -o")

    def answer(data, text)
      @out.puts(@options[:json] ? JSON.generate(data) : text)
      0
    end

    def stroke
      path = argument("preset") do |o|
        output(o)
        painting(o)
        o.on("--report FILE") { @options[:report] = _1 }
      end
      target = wanted_output
      painted = paint(sized(preset(path)))
      write(target, painted.to_png(paper: @options.fetch(:paper, Stroke::Colour.parse("#ffffff"))))
      write(@options[:report], JSON.generate(painted.report)) if @options[:report]
      answer(
        {
          width: painted.width,
          height: painted.height,
          length: painted.length.round(4),
          dabs: painted.dabs.size
        },
        "#{target}: #{painted.width} × #{painted.height} px, #{painted.dabs.size} dabs along #{painted.length.round} px"
      )
    end

    def paint(preset)
      raise Usage, "give either --stroke or --samples" if @options[:sample] && @options[:samples]
      page = @options[:page]
      samples = @options[:samples] ? Stroke::Samples.from_list(json(@options[:samples])) : Stroke::SampleStroke.fetch(
        @options.fetch(
          :sample, "swell"
        )
      ).on(page)
      assets = @options[:assets] ? Core::Preset::AssetFolder.new(@options[:assets]) : {}
      Stroke::Painter.new(preset, assets:, seed: @options.fetch(:seed, 1))
        .paint(samples, page:, colour: @options.fetch(:colour, Stroke::Painter::INK), ground: ground)
    end

    # What lies on the page before the stroke, for paint that moves, erases or lays under.
    def ground
      file = @options[:ground] or return
      Stroke::Page.of(Core::Tip::Picture.read(File.binread(file), name: File.basename(file)))
    end

    def sized(preset) = @options[:size] ? Stroke::Strip.sized(preset, @options[:size]) : preset

    def preset_check
      preset = preset(argument("preset"))
      unknown = preset.unknown
      answer(
        {valid: true, name: preset.name, fingerprint: preset.fingerprint, unknown:},
        ["“#{preset.name}” is a valid preset.", *unknown.map { "Kept, but not known to this version: #{_1}" }]
      )
    end

    def preset_fingerprint
      fingerprint = preset(argument("preset")).fingerprint
      answer({fingerprint:}, fingerprint)
    end

    def package_build
      folder = argument("folder") { output(_1) }
      target = wanted_output
      bundle = Core::Package::Folder.read(folder).with_strips
      write(target, Core::Package::Writer.zip(bundle))
      answer(listed(bundle).merge(file: target), "#{target}: #{counted(bundle)}")
    end

    def package_list
      bundle = package(argument("package"))
      rows = bundle.items.map { |item|
        "#{item.preset.name}  version #{item.version}  #{item.preset.fingerprint[0, 12]}"
      }
      answer(listed(bundle), ["#{bundle.name} #{bundle.version}: #{counted(bundle)}", *rows])
    end

    def package_verify
      bundle = package(argument("package"))
      answer({valid: true}.merge(listed(bundle)), "Everything in it is as it was packed: #{counted(bundle)}.")
    end

    def package_extract
      file = argument("package") { output(_1) }
      target = @options[:output] || File.basename(file).sub(/(\.fobrel)?\.zip\z/i, "")
      bundle = package(file)
      Core::Package::Folder.write(bundle, target)
      answer(listed(bundle).merge(folder: target), "#{target}: #{counted(bundle)}")
    end

    # What differs between two packages, and the number that asks for.
    def package_compare
      old, new = arguments("packages", 2).map { package(_1) }
      brushes = [old, new].map { |bundle|
        bundle.presets.map {
          Core::Curation::ReleaseNumber::Brush.new(_1.id, _1.name, _1.fingerprint)
        }
      }
      words = %i[name licence author description].any? { old.public_send(_1) != new.public_send(_1) }
      changes = Core::Curation::ReleaseNumber.new(*brushes, words:)
      number = changes.level ? changes.next(old.version) : old.version
      answer(
        {level: changes.level, number:, differences: changes.differences},
        changes.level ? [
          *changes.notes.lines(chomp: true),
          "a #{changes.level} change: #{old.version} → #{number}"
        ] : "They hold the same."
      )
    end

    def studio = @studio ||= Studio.new

    def library = studio.library(@options[:library])

    # How a stroke is painted.
    def painting(o)
      o.on("--stroke NAME") { @options[:sample] = _1 }
      o.on("--samples FILE") { @options[:samples] = _1 }
      o.on("--assets DIR") { @options[:assets] = _1 }
      o.on("--page WxH") { @options[:page] = page(_1) }
      o.on("--size N", Float) { @options[:size] = between(_1, 0.5, 5000, "--size") }
      o.on("--seed N", Integer) { @options[:seed] = _1 }
      o.on("--colour C") { @options[:colour] = colour(_1) }
      o.on("--paper C") { @options[:paper] = (_1 == "none") ? nil : colour(_1) }
      o.on("--ground FILE") { @options[:ground] = _1 }
    end

    def arriving(item)
      becomes = " → #{item["becomes"]}" if item["becomes"] != item["name"]
      why = "  (#{item["sentence"]})" unless item["sentence"].empty?
      "#{item["state"].ljust(10)}  #{item["decision"].ljust(7)}  #{item["name"]}#{becomes}#{why}"
    end

    # Without --apply nothing in the library is changed; the import waits in Import.
    def import
      files = arguments("files", 1..) do |o|
        in_library(o)
        o.on("--plan") { @options[:plan] = true }
        o.on("--keep") { @options[:keep] = true }
        o.on("--apply") { @options[:apply] = true }
        o.on("--decide WHAT") { (@options[:decide] ||= {}).store(*decision(_1)) }
      end
      raise Usage, "take one of --plan, --keep and --apply" if @options.values_at(:plan, :keep, :apply).compact.size > 1
      import = studio.deliver(library, files)
      import = studio.decide(import, {all: @options[:decide]}) if @options[:decide]
      items = import["items"]
      rows = items.map { arriving(_1) }
      code = (items.any? { UNUSABLE.include?(_1["state"]) }) ? 1 : 0
      return planned(import, rows, code) unless @options[:apply]
      done = studio.apply(import)
      answer(
        done.slice("id", "state", "report", "entry"),
        [
          *rows,
          done["entry"] ? "Taken in: #{done["entry"]["summary"]}." : "Everything was here already. Nothing was added."
        ]
      )
      code
    end

    # What cannot be imported.
    UNUSABLE = %w[unreadable future lacking].freeze
    private_constant :UNUSABLE

    # Only looked at: it leaves nothing behind in Import, unless it is to wait there.
    def planned(import, rows, code)
      studio.discard_import(import) unless @options[:keep]
      answer(
        import.slice("id", "state", "items"),
        [
          *rows,
          @options[:keep] ? "Nothing was changed. It waits in Import as “#{import["name"]}”." : "Nothing was " \
            "changed, and nothing waits in Import. Take it in with --apply, or let it wait there with --keep."
        ]
      )
      code
    end

    def decision(text)
      state, decision = text.split("=", 2)
      choices = Core::Curation::ImportPlan::CHOICES[state] or raise Usage,
        "--decide is written STATE=DECISION; states: #{Core::Curation::ImportPlan::CHOICES.keys.join(", ")}"
      raise Usage, "what is #{state} can be: #{choices.join(", ")}" unless choices.include?(decision)
      [state, decision]
    end

    def export = written("package")

    def kit = written("kit")

    def proof = written("proof")

    def export_template = written("export_template")

    # Has the server write a set as a file.
    def written(kind)
      names = arguments(
        (kind == "export_template") ? "export template and set" : "set",
        (kind == "export_template") ? 2 : 1
      ) do |o|
        output(o)
        in_library(o)
      end
      target = wanted_output
      found = library
      export_template = studio.export_template(found, names.first) if kind == "export_template"
      by_export_template =
        export_template &&
        (export_template["id"] ? {export_template: export_template["id"]} : {example: export_template["name"]})
      as_sheet = {format: target.match?(/\.zip\z/i) ? "png" : "pdf"}
      options = {"export_template" => by_export_template, "proof" => as_sheet}.fetch(kind, {})
      set = studio.named(found, "sets", names.last)
      bytes = studio.export(found, {kind:, name: set["name"], of: {set: set["id"]}, options:})
      write(target, bytes)
      unknown = export_template ? Core::Package::ExportTemplate[export_template].unknown : []
      answer(
        {file: target, bytes: bytes.bytesize, brushes: set["count"], unknown:},
        ["#{target}: #{set["count"]} brushes of “#{set["name"]}”, #{bytes.bytesize} bytes", *unknown]
      )
    end

    # Everything of a library, as a nightly job keeps it.
    def backup
      rest = arguments("library with --library", 0..) do |o|
        output(o)
        in_library(o)
        o.on("--all") { @options[:all] = true }
        o.on("--with-passwords") { @options[:passwords] = true }
      end
      raise Usage, "a backup is of a whole library; name it with --library" if rest.any?
      return backup_all if @options[:all]
      target = wanted_output
      found = library
      bytes = studio.export(found, {kind: "backup", name: "#{found["name"]} backup", of: {library: true}})
      write(target, bytes)
      answer({file: target, bytes: bytes.bytesize}, "#{target}: all of “#{found["name"]}”, #{bytes.bytesize} bytes")
    end

    def listed(bundle)
      {
        name: bundle.name,
        version: bundle.version,
        sets: bundle.sets.map(&:name),
        tags: bundle.tags.map(&:name),
        pictures: bundle.assets.size,
        presets: bundle.items.map {
          {id: _1.preset.id, name: _1.preset.name, version: _1.version, fingerprint: _1.preset.fingerprint}
        }
      }
    end

    def counted(bundle) = "#{bundle.items.size} presets, #{bundle.assets.size} pictures, #{bundle.sets.size} sets"

    def preset(path) = Preset.parse(File.binread(path), name: File.basename(path))

    def package(path) = Core::Package::Reader.read(File.binread(path), name: File.basename(path))

    def json(path)
      JSON.parse(File.read(path, encoding: "UTF-8"), max_nesting: 8)
    rescue JSON::ParserError
      raise Core::Problem, "#{File.basename(path)} is not JSON."
    end

    def page(text)
      match = text.match(/\A(\d{1,5})x(\d{1,5})\z/) or raise Usage, "--page is written WxH, such as 700x120"
      match.captures.map { between(_1.to_i, 1, 20_000, "--page") }
    end

    def colour(text)
      Stroke::Colour.parse(text)
    rescue Stroke::Colour::Invalid => e
      raise Usage, e.message
    end

    def between(number, least, most, name)
      raise Usage, "#{name} lies between #{least} and #{most}" unless number.between?(least, most)
      number
    end

    # Beside the target first, so that a full disk leaves no half file.
    #
    # @yieldparam io [File] where there are no bytes at hand
    def write(target, bytes = nil)
      beside = "#{target}.part-#{Process.pid}"
      bytes ? File.binwrite(beside, bytes) : File.open(beside, "wb") { |io| yield io }
      File.rename(beside, target)
    ensure
      File.delete(beside) if beside && File.exist?(beside)
    end
  end
end
