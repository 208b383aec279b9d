# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # A piece of work in the tip maker: pages, the marks chosen from them, and what is done to all of them. A value:
      # it says what is to be made, and makes it at screen size or in full.
      #
      #   work = Work.new(state, [page])
      #   work.marks(0)                        # what was found on the first page
      #   work.make(0)                         # the first mark, at screen size
      #   work.make(0, [File.binread(file)])   # in full
      class Work
        FIND = {"near" => Marks::NEAR, "joined" => [], "apart" => []}.freeze
        TONE = {
          "invert" => nil,
          "even" => false,
          "black" => nil,
          "white" => nil,
          "gamma" => 1.0,
          "solid" => false,
          "threshold" => nil
        }.freeze
        FORM = {
          "specks" => 0,
          "feather" => 0.0,
          "padding" => 0.0,
          "centre" => "middle",
          "square" => true,
          "turn" => 0.0,
          "mirror" => nil,
          "enters" => 0.5,
          "leaves" => 0.5
        }.freeze
        FRAME = {"turn" => 0.0, "mirror" => nil, "size" => 1.0, "lighter" => 0.0, "hue" => 0.0}.freeze
        REEL = {"turn" => "in order", "second" => nil, "columns" => 1}.freeze
        GRAIN = {"way" => "blend", "even" => true, "contrast" => 1.0, "invert" => false}.freeze
        # What is shown is made from so many pixels.
        SHOWN = 90_000
        # How far in a texture fades at the least, see Shaping.feathered.
        SOFT = 0.6
        # Frames of one reel.
        MOST = Picture::MAX_FRAMES

        # @return [Hash] with all that may be set
        attr_reader :state
        # @return [Array<Page>]
        attr_reader :pages

        # The state a piece of work begins with.
        #
        # @param pages [Array<Page>]
        # @return [Hash]
        def self.begin(pages)
          own = pages.any? { _1.facts["coloured"] }
          # Several pictures brought together are the frames of a reel; a page is looked at for its marks first.
          frames = (pages.size > 1) ? pages.each_index.map { {"page" => _1, "area" => {}} } : []
          {"frames" => frames, "colours" => own ? "keep" : "tint", "tone" => {"even" => pages.any?(&:uneven?)}}
        end

        # @param state [Hash] "find", "tone", "form", "frames", "reel", "grain"; "colours": "tint" for the artist's,
        #   or how a white ground is taken off of its own (Paint::GROUNDS); what is missing is as usual
        # @param pages [Array<Page>]
        def initialize(state, pages)
          @state = {
            "find" => FIND.merge(state["find"] || {}),
            "tone" => TONE.merge(state["tone"] || {}),
            "form" => FORM.merge(state["form"] || {}),
            "reel" => REEL.merge(state["reel"] || {}),
            "grain" => GRAIN.merge(state["grain"] || {}),
            "colours" => state["colours"] || "tint",
            "frames" => (state["frames"] || []).map { |frame| FRAME.merge(frame) }
          }
          @pages = pages
        end

        # @param page [Integer] from 0
        # @return [Array<Marks::Mark>] in reading order
        def marks(page)
          near, joined, apart = state["find"].values_at("near", "joined", "apart")
          here = ->(lists) { lists.select { _1["page"] == page }.map { |one| one["parts"] } }
          pages[page].outlines.found(near:, joined: here[joined], apart: here[apart].flatten)
        end

        # @return [Array<Hash>] the marks chosen; where none is, all of the first page
        def frames = state["frames"].empty? ? [FRAME.merge("page" => 0, "area" => {})] : state["frames"]

        # @return [Boolean] whether its colours are kept
        def own? = state["colours"] != "tint"

        # @param index [Integer] of a frame
        # @param source [String, nil] the page's file, to make it in full; nil makes it from the copy
        # @return [Maker::Made]
        # @raise [Cover::Empty, Picture::Unreadable]
        def make(index, source = nil, **changes)
          frame = frames[index]
          page = pages[frame["page"]]
          Maker.make(
            source || page.screen,
            name: "Mark #{index + 1}",
            page:,
            area: Area[frame["area"]],
            own: (state["colours"] if own?),
            most: source ? Maker::MOST : SHOWN,
            **tone(page),
            **form(frame),
            **changes
          )
        end

        # The middle of a page, or what was chosen of it, as a grain.
        #
        # @param file [String, nil] as #make takes it
        # @param twin [Boolean] light and dark exchanged
        # @return [Numo::SFloat] 0 black
        def grain(file = nil, twin: false)
          frame = frames.first
          page = pages[frame["page"]]
          area = Area[frame["area"]]
          picture = Picture.read(file || page.screen, box: area.box, most: file ? Seamless::SIDE**2 : SHOWN)
          luma = picture.luma
          tone = state["tone"]
          luma = 1 - luma if tone["invert"]
          luma = 1 - Cover.from_luma(
            luma,
            white: tone["white"] || 255,
            black: tone["black"] || 0,
            gamma: tone["gamma"]
          ).values
          way, even, contrast, invert = state["grain"].values_at("way", "even", "contrast", "invert")
          Seamless.of(luma, way:, even:, contrast:, invert: invert ^ twin)
        end

        # What a kind of brush asks of its marks: what lies along the line keeps its own proportions, a texture fades
        # towards its rim (common practice, no source: such brushes are soft).
        #
        # @param kind [String, nil] one of Preset::FromTip::KINDS
        # @return [Hash] for #make
        def suited(kind)
          case kind
          when "ribbon", "garland" then {square: false}
          when "texture" then {feather: [state["form"]["feather"], SOFT].max}
          else {}
          end
        end

        # @param references [Array<String>] of the frames' pictures
        # @return [Hash] `mark.tip` of a preset
        def tip(references)
          {
            "kind" => "picture",
            "frames" => references,
            **(own? ? {"colours" => "own"} : {}),
            **((references.size > 1) ? turns(references.size) : {})
          }
        end

        # One mark in n variants, each a step further.
        #
        # @param frame [Hash] as "frames" has it
        # @param count [Integer]
        # @param steps [Hash] "turn" (degrees), "size", "lighter" (shares), "hue" (degrees) of each step; "mirror":
        #   every second one
        # @return [Array<Hash>]
        def self.variants(frame, count, steps)
          frame = FRAME.merge(frame)
          (0...count).map do |step|
            frame.merge(
              "turn" => (frame["turn"] + step * steps.fetch("turn", 0)) % 360,
              "size" => (frame["size"] * (1 - steps.fetch("size", 0))**step).clamp(0.05, 1.0),
              "lighter" => (frame["lighter"] + step * steps.fetch("lighter", 0)).clamp(0.0, 0.95),
              "hue" => (frame["hue"] + step * steps.fetch("hue", 0)) % 360,
              "mirror" => (steps["mirror"] && step.odd?) ? "across" : frame["mirror"]
            )
          end
        end

        private

        # How the next frame is chosen: by one turn, or rows by one and columns by another.
        def turns(count)
          turn, second, columns = state["reel"].values_at("turn", "second", "columns")
          second ? {"turn" => [turn, second], "columns" => columns.clamp(1, count)} : {"turn" => turn}
        end

        def tone(page)
          return {} if own?
          tone = state["tone"].transform_keys(&:to_sym)
          tone[:invert] = page.dark? if tone[:invert].nil?
          tone
        end

        def form(frame)
          form = state["form"].transform_keys(&:to_sym)
          form.merge(
            turn: form[:turn] + frame["turn"],
            mirror: [form[:mirror], frame["mirror"]].compact.uniq.first,
            size: frame["size"],
            lighter: frame["lighter"],
            hue: frame["hue"]
          )
        end
      end
    end
  end
end
