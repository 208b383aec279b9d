# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # A recorded pen movement, shipped as data, that presets are painted along.
      class SampleStroke
        # Raised with the names there are, when one is asked for that there is not.
        class Unknown < Problem; end

        FOLDER = File.join(DATA, "sample_strokes")

        attr_reader :name, :title, :page, :samples

        # @return [Array<String>]
        def self.names = @names ||= Dir.children(FOLDER).map { File.basename(_1, ".json") }.sort.freeze

        # @return [Array<SampleStroke>] all that ship
        def self.all = names.map { |name| fetch(name) }

        # @param name [String] one of names
        # @return [SampleStroke]
        def self.fetch(name)
          unless names.include?(name)
            raise Unknown,
              "No sample stroke is called #{name.to_s[0,
                60].inspect}. There are: #{names.join(", ")}."
          end
          @read ||= {}
          @read[name] ||= new(name, JSON.parse(File.read(File.join(FOLDER, "#{name}.json"))))
        end

        def initialize(name, data)
          @name = name
          @title = data.fetch("title")
          @page = data.fetch("page").freeze
          @samples = Samples.from_list(data.fetch("samples"))
          freeze
        end

        # The movement stretched to another page.
        #
        # @param page [Array(Integer, Integer), nil] width and height in px; nil leaves it as recorded
        # @return [Samples]
        def on(page) = page ? samples.stretch(page[0].fdiv(@page[0]), page[1].fdiv(@page[1])) : samples
      end
    end
  end
end
