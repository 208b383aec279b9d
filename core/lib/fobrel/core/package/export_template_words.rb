# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # Says what is wrong with an export template's text in words for those who write one: what the template
      # language says of its own workings is no help to them.
      #
      #   ExportTemplateWords.of(error)
      #   # => "In line 3: there is no filter “persent”. Did you mean “percent”?"
      #   ExportTemplateWords.unknown(template, text)
      #   # => ["In line 1: “bse” is not known here, so nothing is written for it. …"]
      module ExportTemplateWords
        # What the language's messages mean.
        SAID = {
          /'(\w+)' tag was never closed/ => ->(m) {
            "“{% #{m[1]} … %}” is begun and never ended. Write “{% end#{m[1]} %}” where it ends."
          },
          /'(\w+)' is not a valid delimiter for (\w+) tags/ => ->(m) {
            "“{% #{m[1]} %}” does not end “{% #{m[2]} %}”. Write “{% end#{m[2]} %}”."
          },
          /Unknown tag '(\w+)'/ => ->(m) { "there is no “{% #{m[1]} %}”.#{meant(m[1], tags)}" },
          /undefined filter (\w+)/i => ->(m) { "there is no filter “#{m[1]}”.#{meant(m[1], filters)}" },
          /Variable '.*' was not properly terminated/m => ->(_) { "a “{{” is not closed with “}}”." },
          /Tag '.*' was not properly terminated/m => ->(_) { "a “{%” is not closed with “%}”." },
          /Syntax Error in 'for|in 'for loop'|For loops require/i => ->(_) {
            "a loop is written “{% for preset in presets %} … {% endfor %}”."
          },
          /Syntax Error in '?(\w+)'?|Error in tag '(\w+)'/ => ->(m) {
            "“{% #{m[1] || m[2]} %}” is not written as it has to be."
          },
          /\A“.*” is not a number|must be more than 0/ => ->(m) { m.string.chomp(".") << "." },
          /include|render|file system/i => ->(_) { "an export template stands alone and takes in no other files." },
          /divided by 0/ => ->(_) { "a number is divided by 0." },
          /wrong number of arguments/ => ->(_) { "a filter has too many or too few values after its colon." },
          /
            Expected\ (\w+)\ but\ found\ (\w+)(?:\ in\ "(.*?)")? |
            Unexpected\ character\ (.) |
            is\ not\ a\ valid\ expression
          /mx => ->(m) {
            what = ": “#{m[3].strip[0, 60]}”" if m[3]
            "this cannot be understood#{what}. A value is written “{{ preset.name }}”, a filter after a bar: " \
              "“{{ preset.tip.size.base | radius }}”."
          },
          /comparison of|undefined method|can't be coerced|invalid value for/ => ->(_) {
            "a value is of another kind than is asked of it here."
          }
        }.freeze
        # Words of the language itself that stand where a name could.
        OWN = %w[
          forloop
          tablerowloop
          index
          index0
          rindex
          rindex0
          first
          last
          length
          size
          col
          col0
          row
          col_first
          col_last
          parentloop
          true
          false
          nil
          null
          empty
          blank
        ].freeze
        private_constant :SAID, :OWN

        class << self
          # @param error [Liquid::Error]
          # @return [String] one or two sentences, with the line
          def of(error)
            plain = error.message.sub(/\ALiquid (?:syntax )?error\s*/i, "").sub(
              /\A\(line (\d+)\):?\s*/,
              ""
            ).delete_prefix(": ")
            line = error.line_number || error.message[/line (\d+)/, 1]
            said = SAID.each { |pattern, words| (match = pattern.match(plain)) && (break instance_exec(match, &words)) }
            said = "this cannot be understood." unless said.is_a?(String)
            line ? "In line #{line}: #{said}" : said[0].upcase + said[1..]
          end

          # Names in a template that nothing is called by: each is written as nothing.
          #
          # @param template [Liquid::Template]
          # @param text [String] it was read from
          # @return [Array<String>] a sentence each
          def unknown(template, text)
            used, own = names(template)
            (used - own - known).map do |word|
              line = text.lines.index { _1.match?(/\b#{Regexp.escape(word)}\b/) }
              "#{"In line #{line + 1}: " if line}“#{word}” is not known here, so nothing is written for " \
                "it.#{meant(word, known + own)}"
            end
          end

          private

          def meant(word, known)
            found = DidYouMean::SpellChecker.new(dictionary: known).correct(word).first
            found ? " Did you mean “#{found}”?" : ""
          end

          def tags = Liquid::Tags::STANDARD_TAGS.keys

          def filters = [Liquid::StandardFilters, Units].flat_map { _1.public_instance_methods(false) }.map(&:to_s)

          # Every setting's own name, and what else an export template is given.
          def known
            @known ||= [
              *settings(Preset::Schema::DOCUMENT),
              "preset",
              "presets",
              "set",
              "number",
              "fingerprint",
              "traits",
              "tags",
              "notes",
              "author",
              "licence",
              "version",
              "category",
              "name",
              "library",
              "count",
              "description",
              "version",
              *OWN
            ].uniq
          end

          def settings(schema)
            case schema
            when Hash
              named = schema.fetch("properties", {})
              (named.is_a?(Hash) ? named.keys : []) + schema.values.flat_map { settings(_1) }
            when Array then schema.flat_map { settings(_1) }
            else []
            end
          end

          # @return [Array(Array<String>, Array<String>)] names asked for, names the template makes itself
          def names(template)
            used = []
            own = []
            visitor = Liquid::ParseTreeVisitor.for(template.root)
            visitor.add_callback_for(Liquid::VariableLookup) { |node|
              used.concat([node.name, *node.lookups].grep(String)) && nil
            }
            visitor.add_callback_for(Liquid::Assign, Liquid::Capture) { |node|
              own << node.instance_variable_get(:@to) && nil
            }
            visitor.add_callback_for(Liquid::For, Liquid::TableRow) { |node| own << node.variable_name && nil }
            visitor.add_callback_for(Liquid::Increment, Liquid::Decrement) { |node| own << node.variable_name && nil }
            visitor.visit
            [used.uniq, own]
          end
        end
      end
    end
  end
end
