# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # What a seat loads at start, in order, and the folder that says so.
      class Plan
        FORMAT = "fobrel.start/1"

        # @return [Array<Preset::Preset>] in the order they are loaded
        attr_reader :presets

        # @param presets [Array<Preset::Preset>] each once, in order
        # @param assets [#fetch] from "sha256:…" to Package::Bundle::Asset
        # @raise [Preset::MissingNeed]
        def initialize(presets, assets)
          @presets = presets.freeze
          @assets = presets.flat_map { |preset| preset.needs.map { [_1, preset] } }
            .to_h { |need, preset| [need, assets.fetch(need) { raise Preset::MissingNeed.new(preset, need) }] }
          freeze
        end

        # Writes the folder beside the old one, then swaps a link in one step: a program that
        # starts meanwhile sees all of the old plan or all of the new one.
        #
        # @param seat [String] the seat's folder; `startup` appears in it
        # @return [String] the path of `startup`
        def hand_out(seat)
          FileUtils.mkdir_p(seat)
          made = Dir.mktmpdir("startup-", seat)
          File.chmod(0o755, made)
          files.each do |path, bytes|
            FileUtils.mkdir_p(File.dirname(File.join(made, path)))
            File.open(File.join(made, path), "wb") { |file| file.write(bytes) && file.fsync }
          end
          swap(seat, made)
        end

        # @return [Hash{String => String}] every file of the folder by its path
        def files
          presets.to_h { ["presets/#{_1.id}.json", "#{JSON.pretty_generate(_1.to_h)}\n"] }
            .merge(@assets.to_h { |need, asset| ["parts/#{Sum.in(need)}.#{asset.ext}", asset.bytes] })
            .then { _1.merge("start.json" => "#{JSON.pretty_generate(listing(_1))}\n") }
        end

        private

        def listing(files)
          sums = files.transform_values { Sum.of(_1) }
          {
            "format" => FORMAT,
            "presets" => presets.map { |preset| line(preset) },
            "files" => sums.sort.to_h
          }
        end

        def line(preset)
          {
            "id" => preset.id,
            "name" => preset.name,
            "fingerprint" => preset.fingerprint,
            "file" => "presets/#{preset.id}.json",
            "picture" => preset.preview && "parts/#{Sum.in(preset.preview)}.#{@assets.fetch(preset.preview).ext}"
          }.compact
        end

        def swap(seat, made)
          link = File.join(seat, "startup")
          old = File.symlink?(link) ? File.readlink(link) : nil
          File.symlink(File.basename(made), "#{link}.next-#{Process.pid}")
          File.rename("#{link}.next-#{Process.pid}", link)
          FileUtils.rm_rf(File.join(seat, old)) if old&.match?(/\Astartup-[\w.-]+\z/)
          link
        end
      end
    end
  end
end
