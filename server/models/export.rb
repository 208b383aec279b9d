# frozen_string_literal: true

module Fobrel
  module Models
    # What went out: what, when, who, where to. Each can be done again. The file of one that took long waits for a
    # while.
    class Export < Record
      # How long it waits.
      WAITS = 7.days
      # Seconds that a brush takes, about, by kind (two cores of 2026); more where its strip was never painted.
      EACH = {"package" => 0.008, "kit" => 0.006, "backup" => 0.01, "proof" => 0.09, "inventory" => 0.008}.freeze
      UNPAINTED = 0.06
      # What is made sooner is waited for.
      SHORT = 1.0
      PIECE = 8 * 1024 * 1024
      private_constant :EACH, :UNPAINTED, :SHORT, :PIECE

      belongs_to :library
      belongs_to :person
      belongs_to :release, optional: true
      has_many :pieces, -> { order(:position) }, class_name: "Fobrel::Models::ExportPiece"

      # @param kind [String] of Actions::ExportBrushes::SAID
      # @param prints [Array<String>] fingerprints of the brushes
      # @return [Boolean] whether one would wait too long for it
      def self.long?(kind, prints)
        each = EACH.fetch(kind, 0.004) * prints.size
        painted = KeptStrip.where(
          shape: "list", version: Core::Stroke::Strip::VERSION, fingerprint: prints
        )
        blank = %w[package kit backup proof].include?(kind) ? prints.size - painted.count : 0
        each + [blank, 0].max * UNPAINTED > SHORT
      end

      # Exports whose file waits no longer.
      scope :over, -> { where(created_at: ..WAITS.ago) }

      # @param io [IO] the file, at its beginning
      def keep(io)
        position = 0
        while (bytes = io.read(PIECE))
          RawColumn.put(
            "INSERT INTO export_pieces (export_id, position, bytes) VALUES ($1, $2, $3)", id, position += 1, bytes:
          )
        end
      end

      # @return [Time, nil] until when its file waits
      def waits_until = (created_at + WAITS if has_attribute?(:waiting) ? self[:waiting] : pieces.exists?)

      # With whether a file of each waits, in one question.
      scope :with_waiting,
        -> {
          select("exports.*, EXISTS (SELECT 1 FROM export_pieces p WHERE p.export_id = exports.id) AS waiting")
        }

      # @yieldparam bytes [String] one piece after the other; read when the request itself is over, so it has a
      #   connection for that long
      def each
        Record.connection_pool.with_connection do
          pieces.ids.each { |one| yield RawColumn.get("SELECT bytes FROM export_pieces WHERE id = $1", one) }
        end
      end
    end
  end
end
