# frozen_string_literal: true

require "json"
require_relative "brushes"

module Fobrel
  module Demo
    # What the stand-in for an outside gallery shows at first. All of it is invented.
    module Gallery
      TOKEN = "driftwood-7731"

      SHOWN = [
        [
          "Frost on the jetty",
          "Ilse Brandow",
          "Cold, dry marks for ice, rime and salt.",
          %w[weather dry],
          [3, 9, 14, 22],
          {"flow" => 0.55}
        ],
        [
          "Net and knot stamps",
          "Åse Čapek",
          "Stamps of nets, floats and knots for dressing a quay.",
          %w[stamps rigging],
          [30, 31, 33],
          {"opacity" => 0.9}
        ],
        [
          "Night water",
          "Tove Lindgaard",
          "Soft washes for a harbour at night, tried on black.",
          %w[washes night],
          [5, 8, 12, 17, 26],
          {"flow" => 0.3}
        ]
      ].freeze

      # @param folder [String] is filled unless something lies there
      def self.fill(folder)
        return if File.directory?(folder) && !Dir.empty?(folder)
        FileUtils.mkdir_p(folder)
        drawn = Brushes.all
        SHOWN.each_with_index do |(title, author, description, tags, picks, paint), index|
          bytes = Core::Package::Writer.zip(
            bundle(
              drawn.values_at(*picks).compact,
              title,
              author,
              description,
              tags,
              paint
            )
          )
          id = Digest::SHA256.hexdigest(title)[0, 32]
          File.binwrite(File.join(folder, "#{id}.zip"), bytes)
          File.write(
            File.join(folder, "#{id}.json"),
            JSON.generate(
              id:,
              title:,
              author:,
              description:,
              tags:,
              size: bytes.bytesize,
              sha256: Digest::SHA256.hexdigest(bytes),
              at: "2026-11-#{10 + index}T09:00:00Z"
            )
          )
        end
      end

      def self.bundle(brushes, title, author, description, tags, paint)
        items = brushes.map do |brush|
          settings = brush.settings.merge(
            "paint" => (brush.settings["paint"] || {}).merge(paint),
            "about" => {"author" => author, "licence" => "CC-BY-4.0", "tags" => tags.first(1)}
          )
          Core::Package::Bundle::Item.new(
            preset: Core::Preset::Preset.build(
              "#{title.split.first} #{brush.name.downcase}",
              settings,
              id: uuid("#{title} #{brush.name}")
            ),
            version: 1
          )
        end
        pictures = brushes.flat_map(&:pictures).to_h {
          [
            "sha256:#{Digest::SHA256.hexdigest(_1)}",
            Core::Package::Bundle::Asset.new(bytes: _1, ext: _1.start_with?("<svg") ? "svg" : "png")
          ]
        }
        Core::Package::Bundle.build(
          items:,
          assets: pictures,
          name: title,
          author:,
          description:,
          licence: "CC-BY-4.0",
          sets: [
            Core::Package::Bundle::Group.new(
              name: title,
              presets: items.map {
                _1.preset.id
              }
            )
          ]
        )
      end

      # The same identity at every start.
      def self.uuid(text) = Digest::SHA256.hexdigest(text)[0, 32].unpack("a8a4a4a4a12").join("-")
      private_class_method :bundle, :uuid
    end
  end
end
