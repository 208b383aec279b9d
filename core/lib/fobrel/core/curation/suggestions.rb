# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # What may be meant by the end of a search line that is being typed.
      #
      #   known = {"tag" => ["lineart", "night"], "category" => ["Washes"]}
      #   Suggestions.of("fog cat", known)    # => ["fog category: "]
      #   Suggestions.of("fog tag: ni", known)   # => ["fog tag: night"]
      #   Suggestions.of("tag: nihgt", known)    # => ["tag: night"]
      module Suggestions
        MOST = 8
        # Terms whose names are proposed for a word that is typed without one.
        NAMES = ["tag", "category", "set", "status"].freeze
        # A name is proposed from so many letters on.
        ENOUGH = 2
        OPEN = /(?<![^\s,;:])"[^"]/
        private_constant :OPEN

        class << self
          # @param typing [String]
          # @param known [Hash{String => Array<String>}] by term, in its order, the values that there are
          # @return [Array<String>] whole lines, MOST at the most
          def of(typing, known)
            # What is being typed in quotes has not got its last one yet.
            line = typing.gsub(Query::QUOTED, "").match?(OPEN) ? %(#{typing}") : typing
            last = line.match?(/;\s*\z/) ? "" : (parts(line, ";").last || "")
            head = line[0, line.size - last.size]
            found = begun(last, known.keys)
            (found ? values(head, last, *found, known) : words(line, last, known)).first(MOST)
          end

          private

          # The parts of a line between signs; a sign in quotes is no end.
          def parts(line, sign) = line.scan(/(?:#{Query::QUOTED.source.gsub("((", "(?:(")}|[^#{sign}])+/)

          def meant(written) = written.strip.gsub(Query::QUOTED) { $1.gsub('""', '"') }

          # The term whose value is being typed, and where its value begins.
          def begun(last, names)
            found = names.filter_map { |name| (at = last.downcase.rindex("#{name}:")) && [name, at + name.size + 1] }
            found.max_by(&:last)
          end

          def values(head, last, name, from, known)
            list = parts(last[from..], ",")
            list << "" if last[from..].match?(/(,|\A)\s*\z/)
            typed = meant(list.last).downcase
            before = list[0...-1].map(&:strip).reject(&:empty?)
            fitting = known[name].select { |value| value.downcase.include?(typed) && value.downcase != typed }
            fitting = near(typed, known[name]) if fitting.empty?
            fitting.map { |value| "#{head}#{last[0, from]} #{[*before, Query.written(value)].join(", ")}" }
          end

          # What may have been meant by a value that there is not: "see" by "sea".
          def near(typed, values)
            return [] if typed.size < ENOUGH || values.any? { _1.casecmp?(typed) }
            DidYouMean::SpellChecker.new(dictionary: values).correct(typed)
          end

          def words(line, last, known)
            word = last[/\S+\z/].to_s.downcase
            return [] if word.empty?
            stem = line[0, line.size - word.size]
            terms = known.keys.select { |name| name.start_with?(word) }.map { |name| "#{stem}#{name}: " }
            return terms if word.size < ENOUGH
            names = known.slice(*NAMES).flat_map { |name, values|
              values.select { |value| value.downcase.start_with?(word) }
                .map { |value| "#{stem}#{name}: #{Query.written(value)}" }
            }
            terms + names
          end
        end
      end
    end
  end
end
