# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # What somebody asks the brush list for, on one line: words, and terms such as `tag: lineart, sea`
      # or `size: under 60`. Words come first or after a semicolon; a comma between a term's
      # values means any of them; `not` before a term turns it round. What stands in quotes is
      # taken as it is, commas too: `set: "Act 1, the quay"`. `size under 60` needs no colon.
      #
      #   query = Query.parse("fog category: washes, inks size: under 60; not tag: night")
      #   query.words                      # => ["fog"]
      #   query.terms.map(&:name)          # => ["category", "size", "tag"]
      class Query
        # Raised with a sentence when a line cannot be understood.
        class Unclear < Problem; end

        # Each term, and what it asks for; shown under `?` as it stands here.
        TERMS = {
          "tag" => "a tag, or one of its synonyms",
          "category" => "a category and its subcategories",
          "status" => "a status",
          "trait" => "what the brush does: grain, erases, answers to tilt …",
          "set" => "a set that holds it",
          "library" => "another library of yours",
          "size" => "px: 40, about 40, under 60, over 20, 20 to 60",
          "author" => "who made it",
          "changed" => "since 2026-11-01, before 2026-11-01, today, this week, this month",
          "used in" => "a set or a desk’s start-up plan; nothing",
          "licence" => "a licence; none",
          "is" => "draft, changed, favourite, recent, locked, untagged, without notes"
        }.freeze
        STATES = ["draft", "changed", "favourite", "recent", "locked", "untagged", "without notes"].freeze
        LONGEST = 500
        WORD = /(?<!\w)(not\s+)?(#{TERMS.keys.sort_by {
          -_1.size
        }.map { Regexp.escape(_1).gsub("\\ ", "\\s+") }.join("|")})\s*:/i
        # As in a CSV field, a quote in it is written twice (RFC 4180, 2.7).
        QUOTED = /(?<![^\s,;:])"((?:[^"]|"")+)"(?=[\s,;]|\z)/
        SPECIAL = /[",;:]/
        # A term whose colon was left out, where what follows can mean nothing else.
        NUMBER = /\d+(?:\.\d+)?(?:\s*px)?(?![\w.])/
        PLAIN = /
          (?<![\w:,])(?<![:,]\s)
          (?:
            (size)\s+((?:under|over|about)\s+#{NUMBER}|#{NUMBER}(?:\s+to\s+#{NUMBER})?) |
            (changed)\s+((?:since|before)\s+\d{4}-\d\d-\d\d|today|this\s+week|this\s+month)\b
          )
        /ix
        # A size that is written as one speaks of it: "about 40", "under 60", "40 px".
        SPOKEN = /
          (?<![\w:,])(?<![:,]\s)(?<!\bto\s)
          (?:(?:under|over|about)\s+#{NUMBER}|(?:\d+(?:\.\d+)?\s+to\s+)?\d+(?:\.\d+)?\s*px(?![\w.]))
        /ix
        # While a line is taken apart, what was quoted is away; signs of private use stand for it.
        AWAY = /\uE000(\d+)\uE001/
        private_constant :WORD, :SPECIAL, :NUMBER, :PLAIN, :SPOKEN, :AWAY

        # One term: its name, its values, whether it is turned round.
        Term = Struct.new(:name, :values, :negated) do
          def to_s = "#{"not " if negated}#{name}: #{values.map { |value| Query.written(value) }.join(", ")}"
        end

        # @return [String] the value as it must be written where some signs mean more
        def self.quoted(value, special) = value.match?(special) ? %("#{value.gsub('"', '""')}") : value

        # @return [String] the value of a term as it must be written
        def self.written(value) = quoted(value, SPECIAL)

        # @param text [String]
        # @return [Query]
        # @raise [Unclear]
        def self.parse(text)
          text = text.to_s.unicode_normalize(:nfc).gsub(/[[:cntrl:]\uE000\uE001]/, " ").strip
          raise Unclear, "This search is longer than #{LONGEST} characters. Shorten it." if text.size > LONGEST
          away = []
          text = text.gsub(QUOTED) { "\uE000#{(away << $1.gsub('""', '"')).size - 1}\uE001" }
          text = text.gsub(PLAIN) { "; #{$1 || $3}: #{$2 || $4}; " }.gsub(SPOKEN) { |size| "; size: #{size}; " }
          back = ->(part) { part.gsub(AWAY) { away.fetch($1.to_i) }.strip }
          words = []
          terms = []
          text.split(";").each { |piece| read(piece, words, terms, back) }
          new(words.flat_map { _1.split(/\s+/) }.map(&back).reject(&:empty?), terms)
        rescue ArgumentError, Encoding::CompatibilityError
          raise Unclear, "This search is not readable text. Type it anew."
        end

        # What a set that fills itself may ask for.
        #
        # @param text [String]
        # @return [Query]
        # @raise [Unclear] also where it asks for nothing
        def self.automatic(text)
          raise Unclear, "This search is longer than #{LONGEST} characters. Shorten it." if text.size > LONGEST
          parse(text).tap { |query|
            if query.empty?
              raise Unclear,
                "A set that fills itself needs something to look for. Nothing was saved. Type a search, or make a " \
                  "set picked by hand."
            end
          }
        end

        def self.read(piece, words, terms, back)
          from = 0
          found = []
          while (match = piece.match(WORD, from))
            found << match
            from = match.end(0)
          end
          words << piece[0...(found.first&.begin(0) || piece.size)]
          found.each_with_index do |match, index|
            last = found[index + 1]&.begin(0) || piece.size
            name = match[2].downcase.gsub(/\s+/, " ")
            terms << term(
              name,
              piece[match.end(0)...last].split(",").map(&back),
              !match[1].nil?
            )
          end
          check(words.last)
        end
        private_class_method :read

        def self.check(words)
          unknown = words[/([[:alpha:]]+)\s*:(\s|\z)/, 1] or return
          raise Unclear,
            "There is no term “#{unknown}:”. There are #{TERMS.keys.join(", ")}. Each is explained under ?."
        end
        private_class_method :check

        def self.term(name, values, negated)
          values = values.reject(&:empty?)
          raise Unclear, "“#{name}:” needs something after it: #{TERMS[name]}." if values.empty?
          values.each { |value| (name == "size") ? Range.parse(value) : (Since.parse(value) if name == "changed") }
          bad = (name == "is") ? values.map(&:downcase) - STATES : []
          raise Unclear, "“is:” knows #{STATES.join(", ")}; not “#{bad.first}”." if bad.any?
          Term.new(name, values, negated)
        end
        private_class_method :term

        # A size asked for, from px to px.
        module Range
          # How far "about" reaches on both sides, as a share.
          NEAR = 0.25

          # @param size [Float] px
          # @return [Array(Float, Float)]
          def self.about(size) = [size * (1 - NEAR), size * (1 + NEAR)]

          # @return [Array(Float, Float)] least and most, px
          def self.parse(text)
            number = '(\d+(?:\.\d+)?)\s*(?:px)?'
            case text.downcase
            when /\A#{number}\z/ then [$1.to_f, $1.to_f]
            when /\Aabout\s+#{number}\z/ then about($1.to_f)
            when /\Aunder\s+#{number}\z/ then [0.0, $1.to_f.prev_float]
            when /\Aover\s+#{number}\z/ then [$1.to_f.next_float, Float::INFINITY]
            when /\A#{number}\s+to\s+#{number}\z/ then [$1.to_f, $2.to_f].minmax
            else raise Unclear, "“size: #{text}” is not a size. Write 40, about 40, under 60, over 20, or 20 to 60."
            end
          end

          # @return [String] as a label says it: "30–50 px", "under 60 px"
          def self.label(text)
            from, to = parse(text)
            return "#{text.downcase.delete_suffix("px").strip} px" if text.match?(/\A\s*(under|over)/i)
            sizes = [from, to].uniq.map { |size| (size % 1).zero? ? size.to_i : size.round(1) }
            "#{sizes.join("–")} px"
          end
        end

        # A time asked for.
        module Since
          # @param now [Time]
          # @return [Array(Time or nil, Time or nil)] from and until
          def self.parse(text, now: Time.now.utc)
            day = Time.utc(now.year, now.month, now.day)
            case text.downcase
            when "today" then [day, nil]
            when "this week" then [day - ((now.wday - 1) % 7) * 86_400, nil]
            when "this month" then [Time.utc(now.year, now.month), nil]
            when /\Asince\s+(\d{4}-\d\d-\d\d)\z/ then [date($1), nil]
            when /\Abefore\s+(\d{4}-\d\d-\d\d)\z/ then [nil, date($1)]
            else raise Unclear,
              "“changed: #{text}” is not a time. Write since 2026-11-01, before 2026-11-01, today, this week, or " \
                "this month."
            end
          end

          def self.date(text)
            Time.utc(*text.split("-").map(&:to_i)).tap { raise ArgumentError if _1.strftime("%F") != text }
          rescue ArgumentError
            raise Unclear, "#{text} is not a valid date. Write it as 2026-11-01."
          end
          private_class_method :date
        end

        # How words are compared: without case, accents or width.
        #
        # @param text [String]
        # @return [String]
        def self.fold(text) = text.to_s.unicode_normalize(:nfkd).gsub(/\p{M}/, "").downcase

        # @return [Array<String>] as typed
        attr_reader :words
        # @return [Array<Term>]
        attr_reader :terms

        def initialize(words, terms)
          @words = words.freeze
          @terms = terms.freeze
          freeze
        end

        def empty? = words.empty? && terms.empty?

        # @param name [String] of a term
        # @return [Boolean] whether the query has such a term
        def asks?(name) = terms.any? { _1.name == name }

        # @return [String] the line that reads as this query
        def to_s
          [
            words.map {
              Query.quoted(_1, /[";\s]|:\z|\A(?:size|changed|under|over|about)\z|\A\d+px\z/i)
            }.join(" "),
            *terms.map(&:to_s)
          ].reject(&:empty?).join("; ")
        end

        # @param name [String] of a term
        # @param value [String]
        # @return [Query] with the value added to that term, or taken out of it where it is asked for already
        def toggled(name, value)
          found = terms.find { |term| !term.negated && term.name == name }
          values = found ? found.values : []
          rest = values.reject { |one| one.casecmp?(value) }
          values = (rest.size < values.size) ? rest : values + [value]
          without(found).and_term(name, values)
        end

        # @param term [Term, nil] one of its own
        # @return [Query]
        def without(term) = Query.new(words, terms.reject { |one| one.equal?(term) })

        # @api private
        def and_term(name, values) = values.empty? ? self : Query.new(words, terms + [Term.new(name, values, false)])

        # @return [Query] with every term of this name replaced by one, or taken out
        def with(name, values, negated: false)
          rest = terms.reject { _1.name == name }
          Query.new(words, values.empty? ? rest : rest + [Term.new(name, values, negated)])
        end
      end
    end
  end
end
