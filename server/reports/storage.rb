# frozen_string_literal: true

module Fobrel
  module Reports
    # How long a library keeps what it no longer needs, and what takes room in it.
    class Storage
      # What a night takes away: its name, days it is kept unless somebody says otherwise, whether it may
      # be kept for ever.
      Rule = Struct.new(:title, :usual, :never)

      # The one list of rules.
      RULES = {
        "cut_off" => Rule.new("Files that did not arrive whole", 2, false),
        "waiting" => Rule.new("Imports that were never finished", 60, true),
        "listed" => Rule.new("What an import brought, item by item, after it was imported or discarded", 30, true),
        "tasks" => Rule.new("Messages of long work that has ended", 30, true),
        "undo" => Rule.new("The undo of what was done (what was done stays, and stays written down)", 365, true),
        "taken" => Rule.new("Files in the watched folder that were taken", 90, true),
        "hidden" => Rule.new("Hidden brushes that nothing uses, until they are deleted permanently", nil, true)
      }.freeze

      # Days that a rule may say.
      DAYS = (1..3650)

      # What a night takes away whatever the rules say: nothing needs it, or it is computed anew.
      ALWAYS = {
        "strips" => "Strips of brushes that are no longer here",
        "pictures" => "Pictures that no brush, draft, cover or undo needs",
        "other" => "Answers kept against doubled requests, and other leftovers"
      }.freeze

      # @return [String] of a rule, or of what is always taken
      def self.title(key) = RULES[key]&.title || ALWAYS.fetch(key)

      def initialize(library)
        @library = library
      end

      # @return [Hash{String => Integer, nil}] days by rule; nil where it is kept for ever
      def days = RULES.to_h { |key, rule| [key, @library.storage.fetch(key, rule.usual)] }

      # @param given [Hash{String => Integer, nil}] some of the rules
      # @return [String] what of them is different
      def said(given)
        given.filter_map { |key, value|
          next if !RULES.key?(key) || days[key] == value
          "#{RULES[key].title.downcase} #{value ? "#{value} days" : "no limit"}"
        }.join("; ").presence
      end

      # @param given [Hash{String => Integer, nil}] some of the rules
      # @return [Hash] what the library keeps of them, with the others
      # @raise [Core::Problem]
      def with(given)
        given.each do |key, value|
          rule = RULES[key] or raise Core::Problem, "There is no rule called “#{key.to_s[0, 40]}”. Nothing was changed."
          next if (value.nil? && rule.never) || (value.is_a?(Integer) && DAYS.cover?(value))
          raise Core::Problem,
            "“#{rule.title}” can be kept for #{DAYS.min} to #{DAYS.max} days#{", or without limit" if rule.never}. " \
              "Nothing was changed."
        end
        days.merge(given).reject { |key, value| value == RULES[key].usual }
      end

      # @return [ActiveRecord::Relation<Models::Preset>] hidden brushes that a night's cleaning would delete,
      #   unless something uses them
      def over(moment = Time.current)
        days = self.days["hidden"]
        days ? @library.presets.where(hidden_at: ..(moment - days.days)) : @library.presets.none
      end

      # What takes room, the most first.
      #
      # @return [Array<Hash>] title, count, bytes
      def room
        rows = ROOM.map { |title, sql|
          [
            title,
            *Models::Record.connection.select_rows(
              Models::Record.sanitize_sql(
                [
                  sql,
                  {library: @library.id}
                ]
              )
            ).first.map(&:to_i)
          ]
        }
        folder = taken.map { |one| one.stat.size }
        [*rows, ["Files in the watched folder that were taken", folder.size, folder.sum]].map { |title, count, bytes|
          {title:, count:, bytes:}
        }.sort_by { -_1[:bytes] }
      end

      # @return [Array<Core::Startup::Tree::Found>] files, whole folders file by file
      def taken
        tree.walk(Jobs::WatchedFolder::TAKEN, most: 100_000).select { |one| one.stat.file? }
      end

      # Others may write there: nothing is followed.
      def tree = @tree ||= Core::Startup::Tree.new(Jobs::WatchedFolder.of(@library))

      # How many rows and bytes, by what a person would call it.
      ROOM = {
        "Versions of brushes" => <<~SQL,
          SELECT count(*), sum(pg_column_size(e.document)) FROM versions e
          JOIN presets p ON p.id = e.preset_id WHERE p.library_id = :library
        SQL
        "Tips, grains and other pictures" => <<~SQL,
          SELECT count(*), sum(octet_length(bytes)) FROM assets WHERE sha256 IN (
            SELECT n.sha256 FROM version_needs n JOIN versions e ON e.id = n.version_id
            JOIN presets p ON p.id = e.preset_id WHERE p.library_id = :library)
        SQL
        "Painted strips" => <<~SQL,
          SELECT count(*), sum(octet_length(png)) FROM strips WHERE fingerprint IN (
            SELECT e.fingerprint FROM versions e JOIN presets p ON p.id = e.preset_id WHERE p.library_id = :library)
        SQL
        "Releases of bundles" => <<~SQL,
          SELECT count(*), sum(octet_length(package)) FROM releases
          WHERE bundle_id IN (SELECT id FROM bundles WHERE library_id = :library)
        SQL
        "Files of imports" => <<~SQL,
          SELECT count(DISTINCT f.id), sum(octet_length(c.bytes)) FROM import_chunks c
          JOIN import_files f ON f.id = c.import_file_id
          JOIN imports a ON a.id = f.import_id WHERE a.library_id = :library
        SQL
        "Pictures in imports" => <<~SQL,
          SELECT count(*), sum(octet_length(coalesce(p.bytes, k.bytes))) FROM import_parts p
          JOIN imports a ON a.id = p.import_id LEFT JOIN assets k ON k.sha256 = p.sha256 WHERE a.library_id = :library
        SQL
        "Plans of imports" => <<~SQL,
          SELECT count(*), sum(pg_column_size(i.document) + coalesce(pg_column_size(i.past), 0)) FROM import_items i
          JOIN imports a ON a.id = i.import_id WHERE a.library_id = :library
        SQL
        "Undo of what was done" => <<~SQL
          SELECT count(*), sum(pg_column_size(undo)) FROM history_entries WHERE library_id = :library
        SQL
      }.freeze
      private_constant :ROOM
    end
  end
end
