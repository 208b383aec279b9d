# frozen_string_literal: true

module Fobrel
  module Models
    # A brush in a library: its versions, which of them is current, which is the baseline.
    class Preset < Record
      belongs_to :library
      belongs_to :current_version, class_name: "Fobrel::Models::Version", optional: true
      belongs_to :baseline_version, class_name: "Fobrel::Models::Version", optional: true
      belongs_to :locked_by, class_name: "Fobrel::Models::Person", optional: true
      has_many :versions, -> { order(:number) }
      has_many :baselines, -> { order(:id) }
      has_many :drafts
      has_many :tunings
      has_many :taggings
      has_many :tags, through: :taggings
      has_many :set_items
      has_many :brush_sets, through: :set_items
      has_many :start_items
      has_many :desks, -> { workplaces }, through: :start_items

      belongs_to :hidden_by, class_name: "Fobrel::Models::Person", optional: true
      belongs_to :category, optional: true
      belongs_to :status, foreign_key: :status_id, optional: true

      scope :in_order, -> { order(:name, :id) }
      # What is not hidden.
      scope :shown, -> { where(hidden_at: nil) }
      scope :hidden, -> { where.not(hidden_at: nil) }

      # What a person sees of it: their draft, or else the current version.
      #
      # @param person [Person]
      # @return [Draft, Version]
      def seen_by(person) = drafts.find_by(person:) || current_version

      # Those of a relation are hidden.
      def self.hide(person) = update_all(hidden_at: Time.current, hidden_by_id: person.id)

      # Those of a relation are shown again.
      def self.restore = update_all(hidden_at: nil, hidden_by_id: nil)

      # Columns that are worked out from the current version, so that finding needs no document.
      #
      # @param value [Core::Preset::Preset]
      # @param fingerprint [String] its own
      # @return [Hash]
      def self.columns_of(value, fingerprint)
        about = value["about"]
        fold = Core::Curation::Query.method(:fold)
        colour = value["paint", "colour", "value"]
        traits = Core::Curation::Traits.of(value)
        {
          name: value.name,
          plain_name: fold[value.name],
          words: fold[[
            value.name,
            *about.values_at("author", "notes", "purpose", "ground", "sizes"),
            *traits
          ].join(" ")],
          traits:,
          size: value["tip", "size", "base"].to_f,
          author: about["author"],
          licence: about["licence"],
          notes: about["notes"],
          fingerprint:,
          picture: value.preview && Core::Sum.in(value.preview),
          hue: colour && Core::Stroke::Colour.parse(colour).hsl.first
        }
      end

      SETTLE = <<~'SQL'
        UPDATE presets SET name = v.name, plain_name = v.plain_name, words = v.words, traits = v.traits,
          trait_words = array_to_string(v.traits, E'\n'), size = v.size, author = v.author, licence = v.licence,
          notes = v.notes, fingerprint = v.fingerprint, hue = v.hue, picture = v.picture, changed_at = v.changed_at, updated_at = now(),
          altered = coalesce(
            (SELECT h.fingerprint <> v.fingerprint FROM versions h WHERE h.id = presets.baseline_version_id), false)
        FROM jsonb_to_recordset(?) AS v(id bigint, name text, plain_name text, words text, traits text[], size float,
          author text, licence text, notes text, fingerprint text, hue float, picture text, changed_at timestamp)
        WHERE presets.id = v.id
      SQL
      private_constant :SETTLE

      # Works the columns out anew, after the current or the baseline version is another one.
      #
      # @param ids [Array<Integer>]
      def self.settle(ids)
        ids.each_slice(1000) do |some|
          current = Version.joins("JOIN presets ON presets.current_version_id = versions.id")
          settle_to(
            current.where(presets: {id: some}).map { |version|
              columns_of(version.value, version.fingerprint).merge(
                id: version.preset_id,
                changed_at: version.created_at
              )
            }
          )
        end
      end

      # @param rows [Array<Hash>] of columns_of, with id and changed_at
      def self.settle_to(rows)
        rows.each_slice(1000) do |some|
          connection.exec_update(
            sanitize_sql(
              [
                SETTLE,
                JSON.generate(
                  some.map {
                    _1.merge(changed_at: _1[:changed_at].iso8601(6))
                  }
                )
              ]
            )
          )
        end
      end

      # The version that each way of going back leads to.
      BACK = {"current" => :current_version, "baseline" => :baseline_version, "received" => :received_version}.freeze

      # @return [Version] the first one: as it was received, or made
      def received_version = versions.first

      # @param to [String] a key of BACK
      # @return [Version]
      def version_to_go_back_to(to) = public_send(BACK.fetch(to))

      # @return [Boolean] whether the current version paints otherwise than its baseline
    end
  end
end
