# frozen_string_literal: true

module Fobrel
  module Models
    # A brush in a library: its editions, which of them is current, which is home.
    class Preset < Record
      belongs_to :library
      belongs_to :current_edition, class_name: "Fobrel::Models::Edition", optional: true
      belongs_to :home_edition, class_name: "Fobrel::Models::Edition", optional: true
      belongs_to :locked_by, class_name: "Fobrel::Models::Person", optional: true
      has_many :editions, -> { order(:number) }
      has_many :homes, -> { order(:id) }
      has_many :drafts
      has_many :tunings
      has_many :taggings
      has_many :tags, through: :taggings
      has_many :set_items
      has_many :brush_sets, through: :set_items
      has_many :start_items
      has_many :seats, -> { workplaces }, through: :start_items

      belongs_to :hidden_by, class_name: "Fobrel::Models::Person", optional: true
      belongs_to :family, optional: true
      belongs_to :work_state, foreign_key: :label_id, optional: true

      scope :in_order, -> { order(:name, :id) }
      # What is not in the Attic.
      scope :shown, -> { where(hidden_at: nil) }
      scope :hidden, -> { where.not(hidden_at: nil) }

      # What a person sees of it: their draft, or else the current edition.
      #
      # @param person [Person]
      # @return [Draft, Edition]
      def seen_by(person) = drafts.find_by(person:) || current_edition

      # Those of a relation go to the Attic.
      def self.hide(person) = update_all(hidden_at: Time.current, hidden_by_id: person.id)

      # Those of a relation come back from the Attic.
      def self.bring_back = update_all(hidden_at: nil, hidden_by_id: nil)

      # Columns that are worked out from the current edition, so that finding needs no document.
      #
      # @param value [Core::Preset::Preset]
      # @param fingerprint [String] its own
      # @return [Hash]
      def self.columns_of(value, fingerprint)
        about = value["about"]
        fold = Core::Curation::Query.method(:fold)
        colour = value["pigment", "colour", "value"]
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
          size: value["mark", "size", "base"].to_f,
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
            (SELECT h.fingerprint <> v.fingerprint FROM editions h WHERE h.id = presets.home_edition_id), false)
        FROM jsonb_to_recordset(?) AS v(id bigint, name text, plain_name text, words text, traits text[], size float,
          author text, licence text, notes text, fingerprint text, hue float, picture text, changed_at timestamp)
        WHERE presets.id = v.id
      SQL
      private_constant :SETTLE

      # Works the columns out anew, after the current or the home edition is another one.
      #
      # @param ids [Array<Integer>]
      def self.settle(ids)
        ids.each_slice(1000) do |some|
          current = Edition.joins("JOIN presets ON presets.current_edition_id = editions.id")
          settle_to(
            current.where(presets: {id: some}).map { |edition|
              columns_of(edition.value, edition.fingerprint).merge(
                id: edition.preset_id,
                changed_at: edition.created_at
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

      # The edition that each way of going back leads to.
      BACK = {"current" => :current_edition, "home" => :home_edition, "received" => :received_edition}.freeze

      # @return [Edition] the first one: as it was received, or made
      def received_edition = editions.first

      # @param to [String] a key of BACK
      # @return [Edition]
      def edition_to_go_back_to(to) = public_send(BACK.fetch(to))

      # @return [Boolean] whether the current edition paints otherwise than home
    end
  end
end
