# frozen_string_literal: true

module Fobrel
  # `fobrel tip`: from pictures, words and shapes to tips and grains.
  module TipCommands
    private

    Tip = Core::Tip
    private_constant :Tip

    def tip
      files = arguments("picture", 0..1) { |o| [output(o), tone_options(o), ways(o), letters(o), figure_options(o)] }
      made = @options.slice(:text, :figure)
      raise CommandLine::Usage, "name one picture" if files.size + made.size != 1
      return lettered if @options[:text]
      return drawn_figure if @options[:figure]
      name = File.basename(files.first)
      bytes = File.binread(files.first)
      # Lines are drawn first; of several pictures in a file, the first is meant unless all are asked for.
      bytes = Tip::Page.pictures(bytes, name:).first if Tip::Page.svg?(bytes) || bytes.start_with?("PK".b)
      if @options[:frames] then frames_of(bytes, name)
      elsif @options[:marks] || @options[:grid] then marks_of(bytes, name)
      elsif @options[:grain] then grain_of(bytes, name)
      else one_tip(bytes, name)
      end
    end

    # Options of Maker, as they are written.
    def tone_options(o)
      o.on("--invert") { @options[:invert] = true }
      o.on("--no-crop") { @options[:crop] = false }
      o.on("--even") { @options[:even] = true }
      o.on("--solid") { @options[:solid] = true }
      o.on("--black N", Integer) { @options[:black] = between(_1, 0, 254, "--black") }
      o.on("--white N", Integer) { @options[:white] = between(_1, 1, 255, "--white") }
      o.on("--gamma G", Float) { @options[:gamma] = between(_1, 0.1, 10, "--gamma") }
      o.on("--threshold N", Float) { @options[:threshold] = between(_1, 0, 1, "--threshold") }
      o.on("--specks N", Float) { @options[:specks] = between(_1, 0, 100_000, "--specks") }
      o.on("--feather SHARE", Float) { @options[:feather] = between(_1, 0, 1, "--feather") }
      o.on("--own [GROUND]", Tip::Paint::GROUNDS) { @options[:own] = _1 || true }
    end

    def ways(o)
      o.on("--frames DIR") { @options[:frames] = _1 }
      o.on("--marks") { @options[:marks] = true }
      o.on("--near SHARE", Float) { @options[:near] = between(_1, 0, Tip::Marks::FARTHEST, "--near") }
      o.on("--grid RxC") { @options[:grid] = grid(_1) }
      o.on("--grain") { @options[:grain] = true }
      o.on("--quilt") { @options[:quilt] = true }
    end

    def letters(o)
      o.on("--text WORDS") { @options[:text] = _1 }
      o.on("--font NAME") { @options[:font] = _1 }
      o.on("--weight N", Integer) { @options[:weight] = between(_1, 100, 900, "--weight") }
      o.on("--spacing S", Float) { @options[:spacing] = between(_1, -0.1, 1, "--spacing") }
      o.on("--curve C", Float) { @options[:curve] = between(_1, -1, 1, "--curve") }
    end

    # Every parameter of every shape is an option of its name.
    def figure_options(o)
      o.on("--figure SHAPE", Tip::Figure::SHAPES.keys) { @options[:figure] = _1 }
      (Tip::Figure::SHAPES.values.flatten + Tip::Figure::COMMON).map(&:name).uniq.each do |name|
        o.on("--#{name} N", Float) { (@options[:parameters] ||= {})[name] = _1 }
      end
    end

    def grid(text)
      match = text.match(/\A(\d{1,2})x(\d{1,2})\z/) or raise CommandLine::Usage, "--grid is written RxC, such as 2x3"
      match.captures.map { between(_1.to_i, 1, 16, "--grid") }
    end

    def making = @options.slice(:invert, :crop, :even, :solid, :black, :white, :gamma, :threshold, :specks, :feather)

    # Without a word for it, a white ground is un-multiplied and a see-through one kept.
    def taken_off(bytes, name)
      return @options[:own] unless @options[:own] == true
      Tip::Picture.read(bytes, name:).see_through? ? "keep" : "unmultiply"
    end

    def made_of(bytes, name, **more)
      own = @options[:own] && taken_off(bytes, name)
      raise CommandLine::Usage, "--white must lie above --black" if @options.fetch(
        :white,
        255
      ) <= @options.fetch(:black, 0)
      Tip::Maker.make(bytes, name:, own:, **making, **more)
    end

    def one_tip(bytes, name)
      target = wanted_output
      made = made_of(bytes, name)
      write(target, made.png)
      figures = made.figures
      figures = figures.merge(black: made.black, white: made.white, before: made.before) unless made.own?
      said = made.own? ? "in its own colours" : "paper from tone #{made.white}. #{made.sentence}"
      answer(figures, "#{target}: #{figures[:width]} × #{figures[:height]} px, #{said}")
    end

    def frames_of(bytes, name)
      folder = into(@options[:frames])
      frames = Tip::Page.pictures(bytes, name:)
      rows = frames.each_with_index.map do |frame, index|
        file = File.join(folder, format("frame-%0#{frames.size.to_s.size}d.png", index + 1))
        made = made_of(frame, "#{name}, frame #{index + 1}")
        write(file, made.png)
        {file:, **made.figures}
      end
      answer({frames: rows}, "#{folder}: #{rows.size} #{(rows.size == 1) ? "frame" : "frames"}")
    end

    def marks_of(bytes, name)
      folder = into(wanted_output)
      page = Tip::Page.read(bytes, name:)
      areas = @options[:grid] ? Tip::Area.grid(*@options[:grid]) : page.marks.found(**@options.slice(:near)).map {
        Tip::Area.of(_1)
      }
      if areas.empty?
        raise Core::Problem, "#{name} has no mark dark enough to be found. Nothing was written. Choose another page."
      end
      invert = page.dark? ^ !!@options[:invert]
      even = @options.fetch(:even, page.uneven?)
      rows = areas.each_with_index.map do |area, index|
        file = File.join(folder, format("mark-%0#{areas.size.to_s.size}d.png", index + 1))
        made = made_of(bytes, "Mark #{index + 1} of #{name}", page:, area:, invert:, even:)
        write(file, made.png)
        {**pixels_of(page, area), file:, solid: made.cover.solid?}
      end
      answer({marks: rows}, "#{folder}: #{rows.size} #{(rows.size == 1) ? "tip" : "marks"} in reading order")
    end

    def pixels_of(page, area)
      %i[x y width height].zip(Tip::Picture.pixels_of(area.words["box"], page.width, page.height)).to_h
    end

    def grain_of(bytes, name)
      target = wanted_output
      luma = Tip::Picture.read(bytes, name:, most: Tip::Seamless::SIDE**2).luma
      grain = Tip::Seamless.of(luma, way: @options[:quilt] ? "quilt" : "blend", invert: !!@options[:invert])
      write(target, png = Tip::Seamless.png(grain))
      height, width = grain.shape
      seams = Tip::Seamless.seams(grain).round(3)
      answer(
        {width:, height:, seams:, sha256: Core::Sum.of(png)},
        "#{target}: #{width} × #{height} px, goes on without a seam (#{seams} × the difference of neighbours inside)"
      )
    end

    def lettered
      words = @options.slice(:text, :font, :weight, :spacing, :curve).transform_keys(&:to_s)
      lettering = Tip::Lettering[words]
      one_tip(lettering.png, "The text “#{words["text"][0, 40]}”")
    end

    def drawn_figure
      target = wanted_output
      own = (Tip::Figure::SHAPES[@options[:figure]] + Tip::Figure::COMMON).map(&:name)
      foreign = (@options[:parameters] || {}).keys - own
      if foreign.any?
        raise CommandLine::Usage,
          "#{@options[:figure]} has no --#{foreign.first}; it has --#{own.join(", --")}"
      end
      figure = Tip::Figure[[{"shape" => @options[:figure], **@options[:parameters].to_h}]]
      return one_tip(figure.png, "The #{@options[:figure]}") unless target.match?(/\.svg\z/i)
      write(target, svg = figure.svg)
      answer({sha256: Core::Sum.of(svg), shapes: figure.shapes}, "#{target}: a #{@options[:figure]} as lines")
    end

    def into(folder)
      FileUtils.mkdir_p(folder)
      folder
    rescue Errno::EEXIST
      raise Core::Problem, "#{folder} is a file. Nothing was written. Name a folder."
    end
  end
end
