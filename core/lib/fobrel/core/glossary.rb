# frozen_string_literal: true

module Fobrel
  module Core
    # The words that only Fobrel has, each with what it means and, where that can be painted, a stroke that shows it.
    #
    #   Glossary.entries.first   # => #<struct word="strip", text="The preview of …", painted=true>
    #   Glossary.png("ribbon")   # => a strip
    module Glossary
      DATA_FILE = File.join(DATA, "glossary.json")
      # Side of a drawing, px.
      SIDE = 256
      # Drawn for Fobrel, in a square of 100.
      DRAWINGS = {
        "leaf" => '<path d="M50 4 C82 26 82 70 50 96 C18 70 18 26 50 4 Z"/>',
        "leaf-small" => '<path d="M50 30 C66 41 66 63 50 76 C34 63 34 41 50 30 Z"/>',
        "star" => '<path d="M50 0 L58 42 L100 50 L58 58 L50 100 L42 58 L0 50 L42 42 Z"/>',
        "drop" => '<path d="M50 4 C62 34 78 48 78 68 A28 28 0 0 1 22 68 C22 48 38 34 50 4 Z"/>',
        "braid" => '<path d="M0 34 C25 34 25 66 50 66 S75 34 100 34 M0 66 C25 66 25 34 50 34 S75 66 100 66" ' \
          'fill="none" stroke="#000" stroke-width="11"/>'
      }.freeze
      private_constant :DATA_FILE, :DRAWINGS

      # A word, one or two sentences about it, and whether there is a stroke that shows it.
      Entry = Struct.new(:word, :text, :painted, keyword_init: true)

      class << self
        # @return [Array<Entry>] in the order a newcomer meets them
        def entries
          @entries ||= data.map { |word, node| Entry.new(word:, text: node["text"], painted: node.key?("settings")) }
        end

        # @param word [String]
        # @return [String] a strip, PNG
        # @raise [KeyError] where there is no such word, or nothing to paint for it
        # @raise [Apart::Ended, Apart::Busy] as Apart.call
        def png(word)
          preset, assets = example(word)
          Apart.call(Stroke::Strip, :png, preset, assets:)
        end

        # @param word [String]
        # @return [Array(Preset::Preset, Hash{String => String})] the brush that shows it, and its pictures by sum
        # @raise [KeyError]
        def example(word)
          node = data.fetch(word)
          pictures = node.fetch("drawings", []).map { picture(_1) }
          sums = pictures.map { "sha256:#{Digest::SHA256.hexdigest(_1)}" }
          [Preset::Preset.build(word, with_tip(node.fetch("settings"), sums)), sums.zip(pictures).to_h]
        end

        private

        def data = @data ||= JSON.parse(File.read(DATA_FILE)).to_h { |node| [node["word"], node] }

        def with_tip(settings, sums)
          return settings if sums.empty?
          mark = settings["tip"]
          {**settings, "tip" => {**mark, "form" => {"kind" => "picture", "frames" => sums, **mark["form"].to_h}}}
        end

        def picture(name)
          svg = %(<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="100" height="100">) \
            "#{DRAWINGS.fetch(name)}</svg>"
          Vips::Image.svgload_buffer(svg, scale: SIDE / 100.0).flatten(background: [255, 255, 255]).pngsave_buffer
        end
      end
    end
  end
end
