# frozen_string_literal: true

require "zxcvbn"

module Fobrel
  module Models
    # What a password must be: long, and none of those that are tried first (NIST SP 800-63B, 5.1.1.2). No rule asks
    # for digits or signs.
    module PasswordRule
      LEAST = 10
      # What bcrypt takes in, bytes.
      MOST = 72
      # Signs in a row, of one alphabet or keyboard.
      RUNS = ["abcdefghijklmnopqrstuvwxyz", "01234567890123456789", "qwertyuiop", "asdfghjkl", "zxcvbnm"].freeze
      COMMON = File.join(Zxcvbn::DATA_PATH, "frequency_lists", "passwords.txt")
      private_constant :RUNS, :COMMON

      class << self
        # @param password [String]
        # @param words [Array<String>] the person's name, and other words that are tried first
        # @return [String, nil] what is wrong with it, as a sentence
        def problem(password, words = [])
          return "A password has at least #{LEAST} characters. Four words are easy to keep" if password.size < LEAST
          return "This password is longer than #{MOST} bytes. Take a shorter one" if password.bytesize > MOST
          return unless common?(password.downcase, [*words, "fobrel"].map(&:downcase))
          "This password is among those that are tried first. Take another; four words are easy to remember"
        end

        private

        def common?(password, words)
          bare = password.gsub(/\A[^[:alpha:]]+|[^[:alpha:]]+\z/, "")
          return true if [password, bare, halved(password), halved(bare)].any? { |one| known.include?(one) }
          return true if password.chars.uniq.size < 4
          return true if RUNS.any? { |run| run.include?(bare) || run.include?(password) || run.include?(bare.reverse) }
          rest = words.select { |word| word.size > 2 }.inject(password) { |left, word| left.gsub(word, "") }
          rest != password && rest.gsub(/[^[:alpha:]]/, "").size < 4
        end

        # "secretsecret" is no better than once.
        def halved(text)
          half = text[0, text.size / 2]
          (text == half * 2) ? half : text
        end

        def known = @known ||= File.readlines(COMMON, chomp: true).to_set
      end
    end
  end
end
