# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # Reads a package that was just written and holds it against what was meant, before it is handed
      # over: nobody should learn from a colleague that it cannot be opened.
      module ReadBack
        # Raised when it is not what was meant.
        class Differs < Problem; end

        # @param io [IO, StringIO] the package; left at its end
        # @param bundle [Bundle] what was written
        # @raise [Differs]
        def self.check(io, bundle)
          io.rewind
          reading = Archive.open(io, name: "The package") { |files|
            # What is kept was looked into when it came; its bytes are held against their sum again.
            Reader.survey(files, name: "The package", sound: bundle.assets) { true }
          }
          odd = reading.troubles.first&.sentence || part(reading, bundle)
          if odd
            raise Differs,
              "The package could not be read back as it was meant (#{odd.chomp(".")}). Nothing was handed over, and " \
                "nothing is lost here. Tell whoever looks after Fobrel."
          end
        rescue Archive::Refused, Reader::Invalid => e
          raise Differs,
            "The package could not be read back (#{e.message.chomp(".")}). Nothing was handed over, and nothing is " \
              "lost here. Tell whoever looks after Fobrel."
        end

        # @return [String, nil] the first part that differs
        def self.part(reading, bundle)
          words = ->(items) { items.map { [_1.preset.canonical, _1.version] } }
          plain = ->(values) { values.map { |value| value.to_h.compact.transform_keys(&:to_s) } }
          {
            "the brushes" => [reading.items, bundle.items].map(&words),
            "the sets" => [reading.sets, bundle.sets].map(&plain),
            "the tags" => [reading.tags, bundle.tags].map(&plain),
            "the export templates" => [reading.export_templates, bundle.export_templates].map(&plain),
            "the pictures" => [reading.assets.keys.sort, bundle.assets.keys.sort],
            "what else the library has" => [reading.backup&.library, bundle.backup&.library],
            "the versions" => [reading.backup&.histories, bundle.backup&.histories]
          }.find { |_, both|
            both.map {
              JSON.parse(JSON.generate(_1))
            }.then { |read, meant| read != meant }
          }&.first
        end
        private_class_method :part
      end
    end
  end
end
