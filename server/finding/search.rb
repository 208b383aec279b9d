# frozen_string_literal: true

module Fobrel
  module Finding
    # Finds the presets that a query asks for, in the database alone.
    #
    #   search = Search.new(library:, person:, query: Core::Curation::Query.parse("fog size: under 60"))
    #   search.page(offset: 0, limit: 50)   # => [4, 9, …]
    class Search
      Q = Core::Curation::Query
      private_constant :Q
      # How alike a mistyped word and a name must be (trigrams, pg_trgm's word similarity); every
      # connection is told so.
      MISTYPED = 0.5
      # Every brush is one: these words say nothing beside others.
      NOISE = %w[brush brushes].freeze
      # Words that are written in two ways.
      SPELLINGS = [%w[colour color], %w[grey gray]].freeze
      private_constant :NOISE, :SPELLINGS
      # An automatic set may ask for another, but not for ever.
      DEEPEST = 3
      # By what the brush list is ordered; "own" is the order of the set looked at.
      ORDERS = {
        "name" => "presets.name, presets.id",
        "changed" => "presets.changed_at DESC NULLS LAST, presets.id",
        "size" => "presets.size, presets.name, presets.id",
        "colour" => "presets.hue NULLS LAST, presets.name, presets.id",
        "use" => "places.times DESC, presets.name, presets.id",
        "category" => "(SELECT position FROM categories WHERE id = presets.category_id) NULLS LAST, " \
          "presets.category_id, presets.name, presets.id",
        "own" => "presets.name, presets.id"
      }.freeze

      # Where brushes stand: in sets and start-up plans.
      PLACES = "SELECT preset_id FROM set_items UNION ALL SELECT preset_id FROM start_items"
      USED = "JOIN (SELECT preset_id, count(*) AS times FROM (#{PLACES}) p GROUP BY preset_id) places ON " \
        "places.preset_id = presets.id"
      UNUSED = "NOT EXISTS (SELECT 1 FROM set_items i WHERE i.preset_id = presets.id) AND NOT EXISTS " \
        "(SELECT 1 FROM start_items i WHERE i.preset_id = presets.id)"
      private_constant :PLACES, :USED, :UNUSED

      # @param library [Models::Library] where to look, unless the query names another of this person's
      # @param person [Models::Person] whose drafts, favourites and libraries are meant
      # @param query [Core::Curation::Query]
      # @param pointers [Hash] what the query's words mean, where that is known; see AutomaticSet
      def initialize(library:, person:, query:, pointers: {}, depth: 0)
        @library = library
        @person = person
        @query = query
        @pointers = pointers
        @depth = depth
      end

      # What a process found out of questions that anybody would be answered the same, while nothing that they look at
      # has changed: how many, and which where only what is alike fitted. The pages of a search ask for it again, and so
      # does every other order.
      Known = Struct.new(:total, :alike)
      KEPT = Core::LruCache.new(200_000) { |known| 10 + known.alike.to_a.size }
      # Terms that look at nothing but brushes, tags, categories, statuses and places; see Models::BrushChange.
      LASTING = ["tag", "category", "status", "trait", "size", "author", "licence"].freeze
      LASTING_STATES = ["changed", "locked", "untagged", "without notes"].freeze
      private_constant :Known, :KEPT, :LASTING, :LASTING_STATES

      # @return [ActiveRecord::Relation<Models::Preset>] in no order
      def presets
        @presets ||=
          if known
            known.alike ? alike(known.alike) : narrowed(exact)
          else
            narrowed(exact).then { |found| (sought.any? && !found.exists?) ? tolerated : found }
          end
      end

      # @return [Array, nil] what names the question and what it was asked of; nil where it may not be kept
      def key
        return @key if defined?(@key)
        lasting = @pointers.empty? && @query.terms.all? { |term| lasting?(term) }
        mark = lasting ? Models::BrushChange.mark(@library.id) : nil
        @key = mark && [@library.id, mark, @query.to_s]
      end

      # @return [Integer] how many were found
      def total
        return known.total if known
        (presets && (@alike&.size || presets.count)).tap { |total| keep(total) }
      end

      # @return [Boolean] whether nothing fitted to the letter, so that what is alike was taken
      def tolerant? = presets && @tolerant == true

      # @param by [String] a key of ORDERS
      # @param set [Models::BrushSet, nil] whose own order "own" means
      # @return [Array<ActiveRecord::Relation<Models::Preset>>] to be read one behind the other: those that are used
      #   are few and are found by themselves, the others stand in an index
      def in_order(by: "name", set: nil)
        if by == "own" && set && !set.automatic?
          places = "JOIN set_items here ON here.preset_id = presets.id AND here.brush_set_id = #{set.id.to_i}"
          return [presets.joins(places).order("here.position")]
        end
        found = presets
        found = found.order(Arel.sql(nearest)) if by == "name" && sought.any?
        return [found.order(Arel.sql(ORDERS.fetch(by)))] unless by == "use"
        [found.joins(USED).order(Arel.sql(ORDERS["use"])), found.where(UNUSED).order(Arel.sql(ORDERS["name"]))]
      end

      # @param by [String] and set, as .in_order
      # @return [Array<Integer>] ids of so many of them, from a place on
      def page(offset:, limit:, by: "name", set: nil)
        some = ->(part, from, most) { part.offset(from).limit(most).pluck("presets.id") }
        first, rest = in_order(by:, set:)
        ids = some[first, offset, limit]
        return ids if rest.nil? || ids.size == limit
        ids + some[rest, [offset - first.unscope(:order).count, 0].max, limit - ids.size]
      end

      # What a state asks for, as a condition.
      #
      # @param word [String] one of Core::Curation::Query::STATES
      # @return [String] SQL
      def state(word)
        case word
        when "changed" then "presets.altered"
        when "locked" then "presets.locked_by_id IS NOT NULL"
        when "untagged" then "NOT EXISTS (SELECT 1 FROM taggings g WHERE g.preset_id = presets.id)"
        when "without notes" then "presets.notes = ''"
        else "presets.id IN (#{own(word).select(:preset_id).to_sql})"
        end
      end

      # States that each person has for themselves.
      OWN = %w[draft favourite recent].freeze

      # @param word [String] one of OWN
      # @return [ActiveRecord::Relation] with the preset_id of what this person has so, in any library
      def own(word)
        model = {"draft" => Models::Draft, "favourite" => Models::Favourite, "recent" => Models::Recent}.fetch(word)
        mine = model.where(person_id: @person.id)
        (word == "recent") ? mine.order(used_at: :desc).limit(Models::Recent::KEPT) : mine
      end

      # @param model [Class] Models::Tag or Models::Category
      # @param word [String] folded
      # @return [Array<Integer>] ids of those whose name, or a synonym of it, has the word
      def labels(model, word)
        condition = "lower(name) LIKE :part OR to_tsvector('english', name) @@ plainto_tsquery('english', :word)"
        named = ->(relation) { relation.where(condition, part: "%#{like(word)}%", word:) }
        here = model.where(library_id: libraries)
        return named[here].ids unless model == Models::Tag
        named[here].ids | named[Models::TagSynonym.where(library_id: libraries)].pluck(:tag_id)
      end

      # @return [Array<String>] the query's words, without those that are true of every brush
      def sought
        @sought ||= @query.words.reject { |word| NOISE.include?(word.downcase) }.then { |rest|
          (rest.empty? && @query.terms.empty?) ? @query.words : rest
        }
      end

      # @return [Array<Integer>] ids of the libraries that are looked in
      def libraries
        term = @query.terms.find { _1.name == "library" } or return [@library.id]
        @person.libraries.named(term.values).ids
      end

      private

      # @return [Known, nil]
      def known
        return @known if defined?(@known)
        @known = key && KEPT[key]
      end

      def keep(total)
        KEPT.fetch(key) { Known.new(total, @alike) } if key
      end

      def lasting?(term)
        return (term.values.map(&:downcase) - LASTING_STATES).empty? if term.name == "is"
        return term.values.map(&:downcase) == ["nothing"] if term.name == "used in"
        LASTING.include?(term.name)
      end

      # The brush of that very name stands first, then those with most of the words in their names.
      def nearest
        name = 'presets.plain_name COLLATE "C"'
        folded = sought.map { Q.fold(_1) }
        in_name = folded.map { "(#{sql("#{name} LIKE ?", "%#{like(_1)}%")})::int" }.join(" + ")
        "CASE WHEN #{sql("#{name} = ?", folded.join(" "))} THEN 0 ELSE #{folded.size + 1} - (#{in_name}) END"
      end

      def base = Models::Preset.shown.where(library_id: libraries)

      def exact = sought.inject(base) { |found, word| found.where(meanings(word).join(" OR ")) }

      # What a word may mean: letters or a form of a word in a brush's own words, a tag or one of its synonyms, a
      # category with those below it, and of a number a size.
      #
      # @return [Array<String>] conditions in SQL
      def meanings(word)
        spelled(Q.fold(word)).flat_map do |one|
          tags, categories = labels(Models::Tag, one), labels(Models::Category, one)
          [
            written(one),
            (sql("presets.stems @@ plainto_tsquery('english', ?)", one) if one.match?(/\A[a-z]{3,}\z/)),
            (tagged(tags) if tags.any?),
            (sql("presets.category_id IN (?)", Models::Category.with_children(categories)) if categories.any?),
            (sql("presets.size BETWEEN ? AND ?", *Q::Range.about(one.to_f)) if one.match?(/\A\d{1,4}(\.\d+)?\z/))
          ].compact
        end
      end

      def spelled(word)
        pairs = SPELLINGS.flat_map { |one, other| [[one, other], [other, one]] }
        [word] | pairs.filter_map { |from, to| word.sub(from, to) if word.include?(from) }
      end

      # The index knows nothing shorter than three letters: asked for less, it would be read from end to end. Bytes are
      # compared, as which the words are kept; so no index is taken.
      def written(word)
        sql("presets.words#{' COLLATE "C"' if word.size < 3} LIKE ?", "%#{like(word)}%")
      end

      # What is alike by trigrams; only where that is nothing, what is alike letter by letter.
      def tolerated
        ids = narrowed(mistyped { [_1] }).ids
        ids = narrowed(mistyped { [_1, *near(_1)] }).ids if ids.empty?
        alike(ids)
      end

      def alike(ids)
        @tolerant = true
        @alike = ids
        Models::Preset.where(id: ids)
      end

      # @yieldparam word [String] folded
      # @yieldreturn [Array<String>] what may stand for it
      def mistyped
        sought.inject(base) do |found, word|
          folded = Q.fold(word)
          next found.where(written(folded)) if folded.size < 4
          found.where(
            ":word <% presets.plain_name OR presets.words LIKE ANY (ARRAY[:parts])",
            word: folded,
            parts: yield(folded).map {
              "%#{like(_1)}%"
            }
          )
        end
      end

      # Trigrams miss two letters that changed places and letters left out of short words; those are
      # found among the words that names are made of.
      def near(word)
        words = base.pluck(Arel.sql("DISTINCT unnest(string_to_array(plain_name, ' '))"))
        DidYouMean::SpellChecker.new(dictionary: words).correct(word)
      end

      def like(text) = Models::Preset.sanitize_sql_like(text)

      def tagged(tags) = sql("presets.id IN (SELECT preset_id FROM taggings WHERE tag_id IN (?))", tags)

      def narrowed(found)
        @query.terms.reject { _1.name == "library" }.inject(found) do |now, term|
          fitting = term.values.map { |value|
            condition(term.name, value)
          }.inject { |one, other| "(#{one}) OR (#{other})" }
          now.where(term.negated ? "(#{fitting}) IS NOT TRUE" : fitting)
        end
      end

      def sql(text, *values) = Models::Preset.sanitize_sql([text, *values])

      def condition(name, value)
        word = value.downcase
        case name
        when "tag" then tag(word)
        when "category" then category(word)
        when "status" then sql("presets.status_id IN (?)", ids(Models::Status, name, word))
        when "trait" then trait(word)
        when "set" then in_set(word)
        when "size" then sql("presets.size BETWEEN ? AND ?", *Q::Range.parse(value).map { _1.infinite? ? 1e9 : _1 })
        when "author" then sql("presets.author ILIKE ?", "%#{like(value)}%")
        when "licence" then (word == "none") ? "presets.licence = ''" : sql(
          "presets.licence ILIKE ?",
          "%#{like(value)}%"
        )
        when "changed" then changed(value)
        when "used in" then used(word)
        when "is" then state(word)
        end
      end

      # @return [Array<Integer>, nil] the ids that a word points to, if it does
      def meant(name, word) = @pointers.dig(name, word)

      # @return [Array<Integer>] what a word points to, or what is called so by now
      def ids(model, name, word) = meant(name, word) || model.where(library_id: libraries).named(word).ids

      def tag(word)
        tagged(meant("tag", word) || Models::Tag.where(library_id: libraries).called_or_meant(word).ids)
      end

      def trait(word)
        meant = Core::Curation::Traits.meant(word)
        return sql("presets.traits && ARRAY[?]::varchar[]", meant) if meant.any?
        sql("presets.trait_words LIKE ?", "%#{like(word)}%")
      end

      def category(word)
        return "presets.category_id IS NULL" if word == "none"
        sql("presets.category_id IN (?)", Models::Category.with_children(ids(Models::Category, "category", word)))
      end

      def in_set(word)
        sets = Models::BrushSet.where(id: ids(Models::BrushSet, "set", word)).to_a
        standing = sets.select(&:automatic?).first(1)
        plain = sql(
          "EXISTS (SELECT 1 FROM set_items i WHERE i.preset_id = presets.id AND i.brush_set_id IN (?))",
          sets.map(&:id)
        )
        return plain if standing.empty? || @depth >= DEEPEST
        inner = standing.first.search(@person, depth: @depth + 1).presets
        "#{plain} OR presets.id IN (#{inner.select(:id).to_sql})"
      end

      def changed(value)
        from, till = Q::Since.parse(value)
        from ? sql("presets.changed_at >= ?", from) : sql("presets.changed_at < ?", till)
      end

      def used(word)
        return UNUSED if word == "nothing"
        in_sets = "SELECT 1 FROM set_items i WHERE i.preset_id = presets.id"
        in_plans = "SELECT 1 FROM start_items i WHERE i.preset_id = presets.id"
        sets = sql("i.brush_set_id IN (?)", ids(Models::BrushSet, "used in", word))
        desks = sql("i.desk_id IN (?)", Models::Desk.where(library_id: libraries).named(word).ids)
        "EXISTS (#{in_sets} AND #{sets}) OR EXISTS (#{in_plans} AND #{desks})"
      end
    end
  end
end
