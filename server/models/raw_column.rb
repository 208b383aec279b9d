# frozen_string_literal: true

module Fobrel
  module Models
    # Large pieces of bytes to and from the database as they are: what the record layer does with
    # them on the way takes longer than the writing itself.
    module RawColumn
      BINARY = 1
      private_constant :BINARY

      # @param sql [String] whose last place is for the bytes
      # @param values [Array<Integer, String>] for the places before it
      # @param bytes [String]
      def self.put(sql, *values, bytes:)
        Record.connection.raw_connection.exec_params(sql, [*values.map(&:to_s), {value: bytes, format: BINARY}]).clear
      end

      # Many pieces one after the other: while the database writes one, the next is made ready.
      # Nothing else may be asked of it meanwhile.
      #
      # @yieldparam put [Proc] takes a statement, its values and bytes: as .put does
      def self.pour
        connection = Record.connection.raw_connection
        waiting = false
        yield(lambda do |sql, *values, bytes:|
          connection.get_last_result if waiting
          connection.send_query_params(sql, [*values.map(&:to_s), {value: bytes, format: BINARY}])
          waiting = true
        end)
      ensure
        connection.get_last_result if waiting
      end

      # @param sql [String] that selects one column of one row
      # @return [String, nil]
      def self.get(sql, *values) = rows(sql, *values).first&.first

      # @param sql [String] that selects text or bytes
      # @return [Array<Array<String, nil>>] as they are, in no encoding
      def self.rows(sql, *values)
        result = Record.connection.raw_connection.exec_params(sql, values.map(&:to_s), BINARY)
        result.type_map = PG::TypeMapAllStrings.new
        result.values
      ensure
        result&.clear
      end

      # Ids of brushes, one behind the other: they are read many times as fast as rows.
      PACKED = "string_agg(int8send(presets.id), '')"

      # @param bytes [String, nil] of integers of eight bytes, the first byte first (PostgreSQL's int8send)
      # @return [Numo::Int64]
      def self.ids(bytes) = bytes ? Numo::Int64.from_binary(bytes).swap_byte : Numo::Int64.zeros(0)
    end
  end
end
