# frozen_string_literal: true

module Fobrel
  module Core
    # What bytes are known by: their SHA-256 (FIPS 180-4) in hexadecimal digits, and how documents refer to it.
    #
    #   Sum.of("abc")              # => "ba7816bf…"
    #   Sum.reference(sum)         # => "sha256:ba7816bf…"
    #   Sum.in("sha256:ba7816…")   # => "ba7816…"
    module Sum
      PREFIX = "sha256:"

      # @param bytes [String]
      # @return [String] 64 digits
      def self.of(bytes) = OpenSSL::Digest::SHA256.hexdigest(bytes)

      # @param sum [String]
      # @return [String]
      def self.reference(sum) = "#{PREFIX}#{sum}"

      # @param bytes [String]
      # @return [String]
      def self.reference_to(bytes) = reference(of(bytes))

      # @param reference [String] or a sum itself
      # @return [String] the sum in it
      def self.in(reference) = reference.delete_prefix(PREFIX)
    end
  end
end
