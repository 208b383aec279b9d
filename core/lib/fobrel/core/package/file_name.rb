# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # Names of files and folders that every system can keep.
      module FileName
        # @param text [String]
        # @return [String] letters, digits, blanks, _ and -, at most 60 characters; perhaps empty
        def self.plain(text)
          text.unicode_normalize(:nfc).gsub(/[^[:alnum:] _-]/, "-").gsub(/\A[ .-]+|[ .-]+\z/, "")[0, 60]
        end

        # @param texts [Array<String>]
        # @return [Array<String>] one for each text, no two the same, however a system writes them
        def self.each_once(texts)
          seen = Hash.new(0)
          texts.map do |text|
            plain = plain(text).then { _1.empty? ? "brush" : _1 }
            number = (seen[plain.downcase] += 1)
            (number == 1) ? plain : "#{plain} (#{number})"
          end
        end
      end
    end
  end
end
