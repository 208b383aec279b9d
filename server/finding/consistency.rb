# frozen_string_literal: true

module Fobrel
  module Finding
    # Who has which brush of a library, and as what: the libraries that follow its bundles, its desks, and people who
    # tuned one for themselves. One question to the database for all of it.
    class Consistency
      # What a place has of a brush.
      STATES = {
        "same" => "the same", "behind" => "an earlier one", "own" => "with own changes", "missing" => "not there"
      }.freeze
      MOST = 5000

      # @param library [Models::Library]
      # @param ids [Array<Integer>, nil] of the brushes; nil are all that are shown
      def initialize(library, ids: nil)
        @library = library
        @ids = ids
      end

      # @return [Hash] places [{key, name, kind}], brushes [{id, name, fingerprint}], cells [[brush, place, state]] of
      #   all that is there, and counts of states by place
      def to_h
        @to_h ||= begin
          rows = found
          {
            places:,
            brushes: presets.map { |preset| preset.slice(:id, :name, :fingerprint) },
            cells: rows.map { |preset, place, state| [preset, place, state] },
            counts: rows.each_with_object(
              Hash.new { |hash, key|
                hash[key] = Hash.new(0)
              }
            ) { |(_, place, state), counts|
              counts[place][state] += 1
            }
          }
        end
      end

      # @return [Array(Integer, Integer)] places that have some of it, and those of them that have nothing older
      def counts = [having.size, having.size - behind.size]

      # @return [String] in one sentence
      def sentence
        return "Nobody follows a bundle of this library, and no desk has one of its brushes." if having.empty?
        if behind.empty?
          return (having.size == 1) ? "#{having.first[:name]} has the newest." : "All #{having.size} have the newest."
        end
        "#{having.size - behind.size} of #{having.size} have the newest; behind: " \
          "#{behind.map { |place| place[:name] }.join(", ")}."
      end

      private

      # What a person tuned for themselves makes nobody behind.
      def having
        @having ||= places.select { |place| place[:kind] != "person" && to_h[:counts].key?(place[:key]) }
      end

      def behind = having.select { |place| to_h[:counts][place[:key]].key?("behind") }

      def presets
        @presets ||= (@ids ? @library.presets.where(id: @ids) : @library.presets).shown.in_order.limit(MOST)
          .select(:id, :name, :fingerprint).to_a
      end

      def follows
        rights = Models::FollowRight.granted.where(publisher: @library).select(:library_id)
        @follows ||= Models::Follow.joins(:bundle).where(bundles: {library_id: @library.id}, library_id: rights)
          .includes(:library, :bundle).order(:id).to_a
      end

      def places
        @places ||= follows.map { |follow|
          {key: "f#{follow.id}", name: follow.library.name, kind: "library", of: follow.bundle.name}
        } + @library.desks.order(:name).map { |desk| {key: "s#{desk.id}", name: desk.name, kind: "desk", of: ""} } +
          people.map { |person| {key: "p#{person.id}", name: person.name, kind: "person", of: ""} }
      end

      # Only whoever tuned something has anything of their own.
      def people
        drafts = Models::Draft.where(preset_id: @library.presets.shown.select(:id)).select(:person_id)
        @library.people.here.where(id: drafts).order(:name)
      end

      def found
        ids = "{#{presets.map(&:id).join(",")}}"
        rows = joined_at_once { |connection| connection.select_rows(SQL, "Consistency", [@library.id, ids]) }
        otherwise = in_folders
        return rows if otherwise.empty?
        rows.filter_map { |preset, place, state|
          kind = otherwise[[preset, place]]
          [preset, place, (kind == "altered") ? "own" : state] unless kind == "missing"
        }
      end

      # Brushes and what follows them come by thousands in a moment, and the database counts its rows only a minute
      # later. Until then it would look for each row of one table in all of the other (60 s instead of 0.3).
      def joined_at_once
        Models::Record.transaction(requires_new: true) do
          connection = Models::Record.connection
          connection.execute("SET LOCAL enable_nestloop = off")
          yield(connection).tap { connection.execute("SET LOCAL enable_nestloop = on") }
        end
      end

      # What was found otherwise in the desks' folders.
      #
      # @return [Hash{Array(Integer, String) => String}] kind by preset and place
      def in_folders
        items = @library.desks.where.not(found: nil).pluck(:id, :found).flat_map { |id, found|
          (found["items"] || []).select { |item| %w[altered missing].include?(item["kind"]) && item["id"] }
            .map { |item| [item["id"], "s#{id}", item["kind"]] }
        }
        ids = @library.presets.where(document_id: items.map(&:first).uniq).pluck(:document_id, :id).to_h
        items.to_h { |document, place, kind| [[ids[document], place], kind] }
      end

      # What a follower has is the same where it paints as the brush does now; it has own changes where it is no more
      # what it came as; else it is behind. A desk has what was sent to it, unless its folder was found otherwise.
      SQL = <<~TEXT
        SELECT p.id, 'f' || f.id, CASE
          WHEN q.fingerprint = p.fingerprint THEN 'same'
          WHEN q.fingerprint <> b.fingerprint THEN 'own'
          ELSE 'behind' END
        FROM follows f
        JOIN bundles u ON u.id = f.bundle_id AND u.library_id = $1
        JOIN followed_brushes b ON b.follow_id = f.id AND b.left_as IS NULL
        JOIN follow_rights r ON r.publisher_id = $1 AND r.library_id = f.library_id AND r.state = 'granted'
        JOIN presets p ON p.library_id = $1 AND p.document_id = b.document_id::uuid AND p.id = ANY ($2::bigint[])
        JOIN presets q ON q.id = b.preset_id AND q.hidden_at IS NULL
        UNION ALL
        SELECT p.id, 's' || s.id, CASE
          WHEN h.fingerprint = p.fingerprint THEN 'same'
          ELSE 'behind' END
        FROM desks s
        CROSS JOIN LATERAL jsonb_to_recordset(coalesce(s.sent, '[]')) AS h(id bigint, fingerprint text)
        JOIN presets p ON p.id = h.id AND p.id = ANY ($2::bigint[])
        WHERE s.library_id = $1 AND NOT s.template
        UNION ALL
        SELECT p.id, 'p' || d.person_id, 'own'
        FROM drafts d
        JOIN presets p ON p.id = d.preset_id AND p.library_id = $1 AND p.id = ANY ($2::bigint[])
        JOIN people e ON e.id = d.person_id AND e.closed_at IS NULL
        JOIN memberships m ON m.person_id = d.person_id AND m.library_id = $1
      TEXT
      private_constant :SQL
    end
  end
end
