# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # Plain open files for other programs: each tip as a PNG, black on white and on nothing, round
      # ones painted; each grain; shapes as they are; all settings as a table and as JSON; the strips.
      #
      #   Kit.zip([preset], assets: store)   # => the ZIP file's bytes
      module Kit
        # A computed tip's side, px.
        SIDE = 512

        # @param presets [Array<Preset::Preset>] in order
        # @param assets [#fetch] from "sha256:…" to bytes
        # @param strips [Hash{String => String}] PNG by preset id; those missing are left out
        # @return [String] a ZIP; the same content gives the same bytes
        # @raise [Preset::MissingNeed]
        def self.zip(presets, assets:, strips: {})
          # In one writing, so that it does not matter how a document came to be kept.
          presets = presets.map { Preset::Preset.restore(JSON.parse(_1.canonical)) }
          files = {
            "settings.csv" => Table.write(presets),
            "settings.json" => JSON.pretty_generate(presets.map(&:to_h)) << "\n"
          }
          presets.zip(FileName.each_once(presets.map(&:name))).each do |preset, folder|
            files["#{folder}/strip.png"] = strips[preset.id] if strips[preset.id]
            files.merge!(parts(preset, folder, assets))
          end
          Writer.pack(files)
        end

        class << self
          # A tip as files.
          #
          # @param bytes [String]
          # @param path [String] without ending
          # @param own [Boolean] whether it keeps its own colours
          # @return [Array<Array(String, String)>] paths and files
          def picture(bytes, path, own) = tip(bytes, path, own)

          private

          def parts(preset, folder, assets)
            fetch = ->(reference) { assets.fetch(reference) { raise Preset::MissingNeed.new(preset, reference) } }
            files = computed(preset, folder) + preset.frames.each_with_index.flat_map { |reference, index|
              tip(fetch[reference], "#{folder}/tip-#{index + 1}", preset["tip", "form", "colours"] == "own")
            }
            shape = preset["tip", "form", "asset"]
            files << ["#{folder}/shape.svg", fetch[shape]] if shape
            surface = preset["grain"]
            if surface
              files << [
                "#{folder}/grain.png",
                Tip::Cover.from_file(fetch[surface["asset"]], name: "A grain").to_png
              ]
            end
            files.to_h
          end

          # A round tip has no picture to give; it is painted, as large as most programs ask for.
          def computed(preset, folder)
            tip = preset["tip", "form"]
            return [] unless tip["kind"] == "round"
            written(
              Stroke::RoundTip.new(
                hardness: tip["hardness"],
                crisp: preset["tip", "hard_pixels"]
              ).picture(SIDE),
              "#{folder}/tip"
            )
          end

          def tip(bytes, path, own)
            # Written anew: a file may hold more than the picture that it shows.
            return [["#{path}.png", Vips::Image.new_from_buffer(bytes, "").pngsave_buffer(strip: true)]] if own
            written(Tip::Cover.from_file(bytes, name: "A tip"), path)
          end

          def written(cover, path)
            alpha = Numo::UInt8.cast((cover.values * 255).round)
            clear = Numo::UInt8.zeros(cover.height, cover.width, 4)
            clear[true, true, 3] = alpha
            [["#{path}-on-white.png", cover.to_png], ["#{path}.png", Stroke::Page.png(clear)]]
          end
        end
      end
    end
  end
end
