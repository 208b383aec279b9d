# frozen_string_literal: true

module Fobrel
  module Models
    # How often something was tried lately, counted by all processes together; where Rack::Attack keeps its counts.
    class Try < Record
      self.table_name = "tries"
      self.primary_key = "key"

      COUNT = <<~SQL
        INSERT INTO tries (key, count, ends_at) VALUES ($1, $2, now() + make_interval(secs => $3))
        ON CONFLICT (key) DO UPDATE SET
          count = CASE WHEN tries.ends_at < now() THEN 0 ELSE tries.count END + excluded.count,
          ends_at = CASE WHEN tries.ends_at < now() THEN excluded.ends_at ELSE tries.ends_at END
        RETURNING count
      SQL
      private_constant :COUNT

      class << self
        # @param key [String]
        # @param amount [Integer]
        # @param expires_in [Numeric] seconds after which it is counted anew
        # @return [Integer] how often by now
        def increment(key, amount = 1, expires_in: 60, **)
          connection.exec_query(COUNT, "Try", [key[-250..] || key, amount, expires_in.to_f]).rows.first.first
        rescue ActiveRecord::ConnectionNotEstablished, ActiveRecord::ConnectionFailed
          0 # nobody signs in without the database; what comes next says so
        end

        # @return [Integer, nil]
        def read(key, *) = where(key:).where("ends_at >= now()").pick(:count)

        # @return [void]
        def write(key, count, expires_in: 60, **)
          upsert({key:, count:, ends_at: expires_in.seconds.from_now})
        end

        # @return [void]
        def clear = delete_all
      end
    end
  end
end
