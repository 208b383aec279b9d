# frozen_string_literal: true

module Fobrel
  module Finding
    # What a set that fills itself points to: the search says words, but it means the tags, categories,
    # statuses and sets that were called so when it was made.
    #
    #   AutomaticSet.pointers(library, query)   # => {"category" => {"ink" => [4, 9]}}
    module AutomaticSet
      # What each term's words are the names of.
      NAMED = {
        "tag" => Models::Tag,
        "category" => Models::Category,
        "status" => Models::Status,
        "set" => Models::BrushSet,
        "used in" => Models::BrushSet
      }.freeze
      # Words of a term that are no names.
      PLAIN = {"category" => "none", "used in" => "nothing"}.freeze

      # @param library [Models::Library]
      # @param query [Core::Curation::Query]
      # @return [Hash{String => Hash{String => Array<Integer>}}] by term and word (lower case), ids; of a search in
      #   another library, nothing
      def self.pointers(library, query)
        return {} if query.terms.any? { _1.name == "library" }
        each_name(query).each_with_object({}) do |(term, word), all|
          ids = called(library, term, word)
          (all[term] ||= {})[word] = ids if ids.any?
        end
      end

      # Refuses what names nothing that is here, and a set that is to be filled from itself.
      #
      # @param set [Models::BrushSet, nil] the one that asks, if it is there already
      # @raise [Core::Curation::Query::Unclear]
      def self.check(library, query, set: nil)
        return if query.terms.any? { _1.name == "library" }
        each_name(query).each do |term, word|
          next if called(library, term, word).any?
          next if term == "used in" && library.desks.named(word).exists?
          what = term.sub("used in", "set or desk")
          raise Core::Curation::Query::Unclear,
            "There is no #{what} “#{word}” here, so the set would stay empty. Nothing was saved. Choose one that is " \
              "there, or make it first."
        end
        if set && circle?(
          library, query, set
        )
          raise Core::Curation::Query::Unclear,
            "“#{set.name}” would be filled from itself. Nothing was saved. Name another set, or search for what it " \
              "is to hold."
        end
      end

      # Lets what points to a record follow its new name.
      #
      # @param record [Models::Record] one of NAMED's, renamed
      # @param from [String] its old name
      def self.follow(record, from)
        return if record.name == from
        each_pointing(record) do |set, query|
          terms = NAMED.select { |_, model| record.is_a?(model) }.keys
          now = Core::Curation::Query.new(
            query.words,
            query.terms.map { |term|
              terms.include?(term.name) ? renamed(set, term, record, from) : term
            }
          )
          next if now.to_s == query.to_s
          pointers = terms.to_h { |term|
            [term, moved(set.pointers.fetch(term, {}), record, from)]
          }.reject { |_, words| words.empty? }
          set.update!(query: now.to_s, pointers: set.pointers.merge(pointers))
        end
      end

      # What pointed to one tag points to another from now on.
      def self.repoint(library, from, into, words: nil)
        library.brush_sets.where("pointers -> 'tag' IS NOT NULL").find_each do |set|
          tags = set.pointers["tag"].to_h { |word, ids|
            [
              word,
              if words.nil? || words.include?(word)
                ids.map { (_1 == from) ? into : _1 }.uniq
              else
                ids
              end
            ]
          }
          set.update_columns(pointers: set.pointers.merge("tag" => tags))
        end
      end

      # @param record [Models::Record] one of NAMED's
      # @return [Array<String>] names of the sets that fill themselves from it
      def self.filled_from(record) = [].tap { |names| each_pointing(record) { |set, _| names << set.name } }

      class << self
        private

        def each_name(query)
          query.terms.select { NAMED.key?(_1.name) }.flat_map { |term|
            term.values.map {
              [term.name, _1.downcase]
            }
          }.reject { |term, word| PLAIN[term] == word }.uniq
        end

        def called(library, term, word)
          found = NAMED.fetch(term).where(library_id: library.id)
          return found.called_or_meant(word).ids if term == "tag"
          found.named(word).ids
        end

        def circle?(library, query, set)
          seen = []
          ask = [query]
          while (one = ask.shift)
            ids = pointers(library, one).fetch("set", {}).values.flatten - seen
            return true if ids.include?(set.id)
            seen |= ids
            ask.concat(
              library.brush_sets.where(id: ids).where.not(query: nil).map {
                Core::Curation::Query.parse(_1.query)
              }
            )
          end
          false
        end

        def each_pointing(record)
          terms = NAMED.select { |_, model| record.is_a?(model) }.keys
          record.library.brush_sets.where.not(query: nil).find_each do |set|
            yield set, Core::Curation::Query.parse(set.query) if terms.any? { |term|
              set.pointers.fetch(term, {}).values.flatten.include?(record.id)
            }
          end
        end

        # A word that others are still called by stays, and the new one stands beside it.
        def renamed(set, term, record, from)
          words = set.pointers.fetch(term.name, {})
          values = term.values.flat_map do |value|
            ids = words.fetch(value.downcase, [])
            next [value] unless ids.include?(record.id) && value.casecmp?(from)
            (ids == [record.id]) ? [record.name] : [value, record.name]
          end
          Core::Curation::Query::Term.new(term.name, values.uniq(&:downcase), term.negated)
        end

        def moved(words, record, from)
          ids = words[from.downcase]
          return words unless ids&.include?(record.id)
          rest = ids - [record.id]
          now = words.except(from.downcase)
          now = now.merge(from.downcase => rest) if rest.any?
          now.merge(record.name.downcase => now.fetch(record.name.downcase, []) | [record.id])
        end
      end
    end
  end
end
