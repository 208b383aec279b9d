# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # Which key picks which brush: what stands in another's way, and what is free.
      #
      #   keys = Keys.new({"a" => "5", "b" => "5"}, reserved: {"5" => "turn the page"}, count: 10)
      #   keys.clashes   # => [Clash(key: "5", why: …)]
      class Keys
        # The usual row, from the left; what is held with it makes further ones.
        ROW = %w[1 2 3 4 5 6 7 8 9 0].freeze
        HELD = ["", "Shift+", "Ctrl+", "Alt+"].freeze
        # One key: what is held, in this order, then what is pressed.
        PATTERN = /\A(?:Ctrl\+)?(?:Alt\+)?(?:Shift\+)?(?:[A-Z0-9]|F(?:[1-9]|1[0-9]|2[0-4]))\z/

        # `ids` are the brushes that want it; `why` one sentence; `free` the nearest key that nobody has.
        Clash = Struct.new(:key, :ids, :why, :free, keyword_init: true)

        # @param keys [Hash{String => String}] from a brush's id to its key
        # @param reserved [Hash{String => String}] from a key to what the painting program does by it
        # @param count [Integer] how many keys there are for brushes
        # @param names [Hash{String => String}] what the brushes are called, for sentences
        def initialize(keys, reserved: {}, count: 10, names: {})
          @keys = keys
          @reserved = reserved
          @count = count
          @names = names
        end

        # @return [Array<Clash>]
        def clashes
          @keys.group_by(&:last).filter_map { |key, pairs|
            ids = pairs.map(&:first)
            why = reason(key, ids) and Clash.new(key:, ids:, why:, free: nearest(key))
          } + too_many
        end

        # @param key [String]
        # @return [String, nil] the nearest on the row that is free, then with something held
        def nearest(key)
          taken = @keys.values.to_set | @reserved.keys
          at = ROW.index(key[-1]) || 0
          near = ROW.sort_by.with_index { |_, index| [(index - at).abs, index] }
          HELD.each { |held| near.each { |one| return held + one unless taken.include?(held + one) } }
          nil
        end

        private

        def reason(key, ids)
          return "“#{key}” is not a key that picks a brush." unless key.match?(PATTERN)
          return "The painting program keeps #{key} for “#{@reserved[key]}”." if @reserved.key?(key)
          return if ids.size < 2
          "#{key} is wanted by #{ids.map { "“#{@names.fetch(_1, _1)}”" }.join(" and ")}."
        end

        def too_many
          return [] if @keys.size <= @count
          over = @keys.keys.drop(@count)
          [
            Clash.new(
              key: nil,
              ids: over,
              free: nil,
              why: "There are #{@count} keys for brushes, and #{@keys.size} wanted."
            )
          ]
        end
      end
    end
  end
end
