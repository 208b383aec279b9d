# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # A studio's own text template that writes each preset, or a whole list of them, in whatever
      # form the studio's tools read. The language is Liquid: it can read what it is given and
      # write text, and nothing else.
      #
      #   ExportTemplate["name" => "Sizes", "scope" => "set", "file" => "sizes.csv",
      #     "body" => "{% for preset in presets %}{{ preset.name | csv }},{{ preset.tip.size.base }}\n{% endfor %}"]
      class ExportTemplate
        # Raised in one sentence when an export template cannot be read, or fails while it writes.
        class Invalid < Problem; end

        SCOPES = %w[each set].freeze
        MOST = 64 * 1024
        # Text that one file may grow to, bytes.
        LENGTH = 8 * 1024 * 1024
        # Steps that one file may take, well within the time; a loop in a loop over a thousand presets is stopped.
        STEPS = 500_000
        # Processor time, and one more for every hundred brushes; and memory, bytes.
        SECONDS = 5
        MEMORY = 256 * 1024 * 1024
        FILE = /\A[^\/\\\0]{1,200}\z/

        attr_reader :name, :scope, :file, :body

        # @return [Array<ExportTemplate>] the examples that ship
        def self.examples
          @examples ||= JSON.parse(File.read(File.join(DATA, "export_templates.json"))).map { self[_1] }
        end

        # @param given [Hash] name, scope ("each" or "set"), file (its name, a template too), body
        # @return [ExportTemplate]
        # @raise [Invalid]
        def self.[](given)
          values = %w[name scope file body].map { given[_1] }
          raise Invalid, "An export template has a name, a scope, a file name and a text." unless values.all?(String)
          new(*values)
        end

        def initialize(name, scope, file, body)
          named = name.strip.length.between?(1, 100)
          raise Invalid, "An export template needs a name of at most 100 characters." unless named
          scoped = SCOPES.include?(scope)
          raise Invalid, "An export template writes a file for “each” brush or one for the “set”." unless scoped
          unless file.match?(FILE)
            raise Invalid,
              "A file name of an export template has no slash and is at most 200 characters long."
          end
          raise Invalid, "An export template is at most #{MOST / 1024} KB long." if body.bytesize > MOST
          @name, @scope, @file, @body = [name.strip, scope, file, body].map(&:dup).each(&:freeze)
          [file, body].each { parse(_1) }
          freeze
        end

        # @return [Hash] as ExportTemplate[] takes it
        def to_h = {"name" => name, "scope" => scope, "file" => file, "body" => body}

        def ==(other) = other.is_a?(ExportTemplate) && to_h == other.to_h

        # Writes the files.
        #
        # @param presets [Array<Preset::Preset>] in order
        # @param words [Hash{String => String}] of the whole: name, author, licence, description, version
        # @param facts [Hash{String => Hash}] by preset id, what is known beside its settings: version, category, tags
        # @return [Hash{String => String}] text by file name
        # @raise [Invalid] with the line
        def write(presets, words: {}, facts: {})
          list = presets.each_with_index.map { |preset, index|
            self.class.given(preset, index, facts.fetch(preset.id, {}))
          }
          given = (scope == "set") ? [{"presets" => list, "set" => words}] : list.map {
            {"preset" => _1, "presets" => list, "set" => words}
          }
          Apart.call(
            ExportTemplate,
            :files,
            to_h,
            given,
            seconds: SECONDS + presets.size / 100,
            memory: MEMORY,
            fresh: true
          )
        rescue Apart::Ended => e
          raise Invalid,
            "The export template stopped. #{e.message} Nothing was written. Use fewer loops, and shorter texts."
        end

        # @api private
        def self.files(export_template, given) = self[export_template].files(given)

        # @api private
        def files(given)
          named(given.map { render(file, _1) }).zip(given).to_h { |name, data| [name, render(body, data)] }
        end

        # @return [Array<String>] a sentence for each name in it that is not known, with what was meant
        def unknown = [file, body].flat_map { ExportTemplateWords.unknown(parse(_1), _1) }.uniq

        # What an export template can read of a preset: all settings, defaults filled in, and what is worked out.
        #
        # @return [Hash]
        def self.given(preset, index = 0, facts = {})
          Preset::Schema.fill(preset.to_h).merge(
            "number" => index + 1,
            "fingerprint" => preset.fingerprint,
            "traits" => Curation::Traits.of(preset),
            "tags" => preset["about", "tags"],
            "notes" => preset["about", "notes"],
            "author" => preset["about", "author"],
            "licence" => preset["about", "licence"],
            **facts
          )
        end

        private

        def parse(text)
          Liquid::Template.parse(
            text,
            error_mode: :strict,
            line_numbers: true,
            environment: self.class.environment
          ).tap do |template|
            template.resource_limits.render_length_limit = LENGTH
            template.resource_limits.render_score_limit = STEPS
            template.resource_limits.assign_score_limit = STEPS
          end
        rescue Liquid::Error => e
          raise Invalid, "The export template cannot be read. #{ExportTemplateWords.of(e)} Nothing was saved."
        end

        def render(text, data)
          parse(text).render!(data, strict_filters: true)
        rescue Liquid::MemoryError
          raise Invalid,
            "The template writes more than it may (#{LENGTH / 1024 / 1024} MB, #{STEPS} steps). Nothing was written. " \
              "Use fewer loops in loops."
        rescue Liquid::Error => e
          raise Invalid, "The export template stopped. #{ExportTemplateWords.of(e)} Nothing was written."
        end

        # The file name's ending stays; what is before it is made safe.
        def named(names)
          endings = names.map { File.extname(_1)[/\A\.[a-z0-9]{1,8}\z/i].to_s }
          FileName.each_once(
            names.zip(endings).map { |name, ending|
              name.delete_suffix(ending)
            }
          ).zip(endings).map(&:join)
        end

        class << self
          # @api private
          def environment
            @environment ||= Liquid::Environment.build do |environment|
              environment.register_filter(Units)
              environment.exception_renderer = ->(error) { raise error }
            end
          end
        end
      end
    end
  end
end
