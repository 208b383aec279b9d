# frozen_string_literal: true

require "optparse"
require "fobrel/core"

module Fobrel
  # The command line: what a person or a script asks of the core, with files in and files out.
  # Exit 0: fine. 1: a problem was found. 2: wrong use.
  class CommandLine
    # Raised when a command is not written as it should be.
    class Usage < StandardError; end

    USAGE = <<~TEXT
      fobrel tip PICTURE -o TIP.png [--invert] [--no-crop] [--white 1-255]
                    [--own keep|unmultiply|flood] [--json]
      fobrel stroke PRESET.json [--trial NAME | --samples S.json] [--assets DIR] [--page WxH]
                    [--size N] [--seed N] [--colour #rrggbb] [--paper #rrggbb|none]
                    [--ground PICTURE.png] -o OUT.png [--report R.json]
      fobrel preset check|fingerprint PRESET.json [--json]
      fobrel package build DIR -o F.fobrel.zip
      fobrel package list|verify F.fobrel.zip [--json]
      fobrel package extract F.fobrel.zip [-o DIR]
      fobrel seat start DIR [--json]
    TEXT

    COMMANDS = {
      %w[tip] => :tip, %w[stroke] => :stroke,
      %w[preset check] => :preset_check, %w[preset fingerprint] => :preset_fingerprint,
      %w[package build] => :package_build, %w[package list] => :package_list,
      %w[package verify] => :package_verify, %w[package extract] => :package_extract,
      %w[seat start] => :seat_start
    }.freeze

    # @param arguments [Array<String>]
    # @param out [IO] for answers
    # @param err [IO] for problems
    # @return [Integer] the exit code
    def self.run(arguments, out: $stdout, err: $stderr)
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
    def argument(name)
      parser = OptionParser.new
      parser.on("--json") { @options[:json] = true }
      yield parser if block_given?
      parser.parse!(@arguments)
      raise Usage, "name one #{name}" unless @arguments.size == 1
      @arguments.first
    end

    def output(parser)
      parser.on("-o FILE") { @options[:output] = _1 }
    end

    def wanted_output = @options[:output] || raise(Usage, "say where to write with -o")

    def answer(data, text)
      @out.puts(@options[:json] ? JSON.generate(data) : text)
      0
    end

    def tip
      picture = argument("picture") do |o|
        output(o)
        o.on("--invert") { @options[:invert] = true }
        o.on("--no-crop") { @options[:crop] = false }
        o.on("--white N", Integer) { @options[:white] = between(_1, 1, 255, "--white") }
        o.on("--own GROUND", Core::Tip::Paint::GROUNDS) { @options[:own] = _1 }
      end
      target = wanted_output
      return own_colours(picture, target) if @options[:own]
      made = Core::Tip::Maker.make(File.binread(picture), name: File.basename(picture),
        **@options.slice(:invert, :crop, :white))
      write(target, made.png)
      figures = made.figures
      answer(figures, "#{target}: #{figures[:width]} × #{figures[:height]} px, greatest cover " \
        "#{(figures[:greatest_cover] * 100).round} %, paper from tone #{made.white}, #{figures[:solid] ? "paints solid" : "cannot paint solid"}")
    end

    # A tip that keeps its own colours, on a see-through ground.
    def own_colours(picture, target)
      paint = Core::Tip::Paint.from_picture(Core::Tip::Picture.read(File.binread(picture), name: File.basename(picture)), ground: @options[:own])
      paint = paint.crop unless @options[:crop] == false
      write(target, png = paint.to_png)
      answer({width: paint.width, height: paint.height, sha256: Digest::SHA256.hexdigest(png)}, "#{target}: #{paint.width} × #{paint.height} px, in its own colours")
    end

    def stroke
      path = argument("preset") do |o|
        output(o)
        o.on("--trial NAME") { @options[:trial] = _1 }
        o.on("--samples FILE") { @options[:samples] = _1 }
        o.on("--assets DIR") { @options[:assets] = _1 }
        o.on("--page WxH") { @options[:page] = page(_1) }
        o.on("--size N", Float) { @options[:size] = between(_1, 0.5, 5000, "--size") }
        o.on("--seed N", Integer) { @options[:seed] = _1 }
        o.on("--colour C") { @options[:colour] = colour(_1) }
        o.on("--paper C") { @options[:paper] = (_1 == "none") ? nil : colour(_1) }
        o.on("--ground FILE") { @options[:ground] = _1 }
        o.on("--report FILE") { @options[:report] = _1 }
      end
      target = wanted_output
      painted = paint(sized(preset(path)))
      write(target, painted.to_png(paper: @options.fetch(:paper, Stroke::Colour.parse("#ffffff"))))
      write(@options[:report], JSON.generate(painted.report)) if @options[:report]
      answer({width: painted.width, height: painted.height, length: painted.length.round(4), dabs: painted.dabs.size},
        "#{target}: #{painted.width} × #{painted.height} px, #{painted.dabs.size} dabs along #{painted.length.round} px")
    end

    def paint(preset)
      raise Usage, "give either --trial or --samples" if @options[:trial] && @options[:samples]
      page = @options[:page]
      samples = @options[:samples] ? Stroke::Samples.from_list(json(@options[:samples])) : Stroke::TrialStroke.fetch(@options.fetch(:trial, "swell")).on(page)
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
      answer({valid: true, name: preset.name, fingerprint: preset.fingerprint, unknown:},
        ["“#{preset.name}” is a valid preset.", *unknown.map { "Kept, but not known to this version: #{_1}" }])
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
      rows = bundle.items.map { |item| "#{item.preset.name}  edition #{item.edition}  #{item.preset.fingerprint[0, 12]}" }
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

    def seat_start
      report = Core::Startup::Start.run(argument("startup folder"))
      rows = report[:loaded].map { |one| "#{one[:ok] ? "loaded" : "FAILED"}  #{one[:name]}  #{one[:ms]} ms#{"  #{one[:problem]}" unless one[:ok]}" }
      rows += report[:stray].map { "not in the plan: #{_1}" }
      answer(report, [*rows, "#{report[:loaded].size - report[:failed]} loaded, #{report[:failed]} failed, in #{report[:ms]} ms"])
      report[:failed].zero? ? 0 : 1
    end

    def listed(bundle)
      {name: bundle.name, version: bundle.version, sets: bundle.sets.map(&:name), tags: bundle.tags.map(&:name), pictures: bundle.assets.size,
       presets: bundle.items.map { {id: _1.preset.id, name: _1.preset.name, edition: _1.edition, fingerprint: _1.preset.fingerprint} }}
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
    def write(target, bytes)
      beside = "#{target}.part-#{Process.pid}"
      File.binwrite(beside, bytes)
      File.rename(beside, target)
    ensure
      File.delete(beside) if beside && File.exist?(beside)
    end
  end
end
