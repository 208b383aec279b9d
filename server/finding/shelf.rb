# frozen_string_literal: true

module Fobrel
  module Finding
    # All tips, grains and drawings of a library: those that its brushes need, and those that lie on a shelf by
    # themselves.
    class Shelf
      # Hashes that differ in no more cells are nearly the same picture.
      NEAR = 5
      # Facts of so many pictures are worked out at one go.
      STEP = 40

      # Pictures never change, so what is told of one is worked out once.
      #
      # @param sums [Array<String>]
      # @return [Hash{String => Hash}] as Core::Tip::PartFacts gives them
      def self.facts_of(sums)
        Models::Asset.where(sha256: sums, facts: nil).pluck(:sha256, :ext).each_slice(STEP) do |some|
          found = Core::Apart.call(
            Core::Tip::PartFacts, :of, some.map { |sum, ext| [ext, Models::Asset::Bytes.fetch(sum) { "" }] }
          )
          some.zip(found).each { |(sum, _), facts| Models::Asset.where(sha256: sum).update_all(facts:) }
        end
        Models::Asset.where(sha256: sums).pluck(:sha256, :facts).to_h
      end

      # @param library [Models::Library]
      # @param person [Models::Person] whose own shelf is shown too
      # @param hidden [Boolean] those that were thrown away, instead
      def initialize(library, person, hidden: false)
        @library = library
        @person = person
        @hidden = hidden
      end

      # @return [Array<Hash>] as openapi.yaml describes Part, by name; what has none is last
      def rows
        used = @hidden ? {} : usage
        parts = shelf.index_by(&:sha256)
        @exts = Models::Asset.where(sha256: used.keys | parts.keys).pluck(:sha256, :ext).to_h
        facts = self.class.facts_of(used.keys | parts.keys)
        rows = (used.keys | parts.keys).map { |sum| row(sum, parts[sum], used.fetch(sum, []), facts.fetch(sum, {})) }
        alike(rows)
        rows.sort_by { |row| [row[:named] ? 0 : 1, row[:name].downcase, row[:sum]] }
      end

      private

      def shelf
        parts = @library.parts.seen_by(@person)
        @hidden ? parts.where.not(hidden_at: nil) : parts.shown
      end

      # Which brushes need a picture, and as what.
      def usage
        rows = Models::Record.connection.select_rows(<<~SQL, "Shelf", [@library.id])
          SELECT n.sha256, p.id, p.name, e.document #>> '{grain,asset}' = 'sha256:' || n.sha256 AS grain,
            p.picture = n.sha256 AND NOT (e.document -> 'tip')::text LIKE '%' || n.sha256 || '%' AS preview
          FROM presets p
          JOIN versions e ON e.id = p.current_version_id
          JOIN version_needs n ON n.version_id = e.id
          WHERE p.library_id = $1 AND p.hidden_at IS NULL
          ORDER BY p.name
        SQL
        rows.group_by(&:first).transform_values { |uses|
          uses.map { |_, id, name, grain, preview|
            {id:, name:, grain: !!grain, preview: !!preview}
          }
        }
      end

      def row(sum, part, uses, facts)
        kind = part&.kind || Models::Part.kind_of(@exts[sum], **uses.first.slice(:grain, :preview))
        {
          sum:,
          kind:,
          id: part&.id,
          named: !part.nil?,
          name: part&.name || uses.first&.fetch(:name).to_s,
          tags: part&.tags || [],
          own: !part&.person_id.nil?,
          made: part&.made,
          brushes: uses.map { |use| use.slice(:id, :name) },
          width: facts["width"] || 0,
          height: facts["height"] || 0,
          cover: facts["cover"] || 0.0,
          memory: facts["memory"] || 0,
          colours: !!facts["own"],
          hash: facts["hash"],
          like: []
        }
      end

      def alike(rows)
        rows.combination(2) do |one, other|
          next unless one[:hash] && other[:hash] && one[:kind] == other[:kind]
          next if Core::Tip::PartFacts.apart(one[:hash], other[:hash]) > NEAR
          one[:like] << other[:sum]
          other[:like] << one[:sum]
        end
        rows.each { |row| row.delete(:hash) }
      end
    end
  end
end
