# frozen_string_literal: true

module Fobrel
  module Models
    # A tip, grain or picture, kept once by its content.
    class Asset < Record
      self.primary_key = "sha256"

      def self.keep(bytes, ext)
        sha256 = Digest::SHA256.hexdigest(bytes)
        insert({sha256:, ext:, bytes:, created_at: Time.current})
        sha256
      end

      # Answers the core's question for a picture: from "sha256:…" to its bytes.
      module Bytes
        def self.fetch(reference)
          Asset.where(sha256: reference.delete_prefix("sha256:")).pick(:bytes) || yield
        end
      end

      # The same with the file's ending, for packages and start folders.
      module Files
        def self.fetch(reference)
          asset = Asset.find_by(sha256: reference.delete_prefix("sha256:")) or return yield
          Core::Package::Bundle::Asset.new(bytes: asset.bytes, ext: asset.ext)
        end
      end
    end
  end
end
