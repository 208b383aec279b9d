# frozen_string_literal: true

module Fobrel
  module Models
    # A tip, grain or picture, kept once by its content.
    class Asset < Record
      self.primary_key = "sha256"

      def self.keep(bytes, ext)
        sha256 = Core::Sum.of(bytes)
        # What is kept again is new again: the night takes only what nobody has asked for lately.
        upsert({sha256:, ext:, bytes:, created_at: Time.current}, update_only: :created_at)
        sha256
      end

      KEEP = <<~SQL
        INSERT INTO assets (sha256, ext, created_at, bytes) VALUES ($1, $2, now(), $3)
        ON CONFLICT (sha256) DO UPDATE SET created_at = excluded.created_at
      SQL
      private_constant :KEEP

      # Keeps many, each by itself; on disk with whatever is committed next.
      #
      # @yieldparam keep [Proc] takes a picture's sum and the picture (#ext, #bytes)
      # @yieldparam put [Proc] as RawColumn.pour has it
      def self.pour
        connection.execute("SET synchronous_commit = off")
        RawColumn.pour do |put|
          yield(->(sum, picture) { put.call(KEEP, sum, picture.ext, bytes: picture.bytes) }, put)
        end
      ensure
        connection.execute("RESET synchronous_commit")
      end

      # Answers the core's question for a picture: from "sha256:…" to its bytes.
      module Bytes
        def self.fetch(reference)
          Models::RawColumn.get("SELECT bytes FROM assets WHERE sha256 = $1", Core::Sum.in(reference)) || yield
        end
      end

      # @param values [Array<Core::Preset::Preset>]
      # @param from [#fetch] where their pictures are
      # @return [Hash{String => String}] the bytes of those that are there, to be taken to another process
      def self.at_hand(*values, from: Bytes)
        values.flat_map(&:parts).uniq.to_h { |reference| [reference, from.fetch(reference) { nil }] }.compact
      end

      # A kept picture whose bytes are fetched when they are asked for.
      Kept = Struct.new(:reference, :ext, :bytesize) do
        def bytes = Bytes.fetch(reference)
      end

      # @param references [Array<String>] "sha256:…"
      # @return [Hash{String => Kept}] those that are kept, for packages and start folders
      def self.files(references)
        where(
          sha256: references.map {
            Core::Sum.in(_1)
          }.uniq
        ).pluck(:sha256, :ext, Arel.sql("octet_length(bytes)"))
          .to_h { |sum, ext, size| [Core::Sum.reference(sum), Kept.new(Core::Sum.reference(sum), ext, size)] }
      end
    end
  end
end
