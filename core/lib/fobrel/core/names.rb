# frozen_string_literal: true

module Fobrel
  module Core
    # Names are made one before they are kept or compared: two that look the same are the same.
    #
    #   Names.clean("e\u0301cume  \u200Blight\t")   # => "écume light"
    module Names
      # What has no width and no place in a name: direction marks, soft hyphens, signs that are
      # not seen (Unicode's Default_Ignorable_Code_Point, without those that join letters).
      UNSEEN = /
        [\u00AD\u034F\u061C\u115F\u1160\u17B4\u17B5\u180B-\u180F\u200B\u200E\u200F] |
        [\u202A-\u202E\u2060-\u206F\u3164\uFEFF\uFFA0\uFFF0-\uFFFB]
      /x
      # Joiners mean something between letters of some scripts and in emoji, and nowhere else.
      STRAY = /(?<![^\p{ASCII}\s])[\u200C\u200D]+|[\u200C\u200D]+(?![^\p{ASCII}\s])/
      # Blanks, and controls but NUL, which is refused wherever it stands.
      BLANK = /(?:[[:space:]]|[\u0001-\u001F\u007F-\u009F])+/
      private_constant :UNSEEN, :STRAY, :BLANK

      # What a login may be made of, once #login has made it one.
      LOGIN = /\A[\p{L}\p{M}0-9._-]+\z/
      # Scripts whose letters are taken for one another, and those that are written together (Unicode Technical Standard
      # 39, "highly restrictive").
      SCRIPTS = [
        /\A[\p{Latin}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Greek}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Cyrillic}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Armenian}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Hebrew}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Arabic}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Devanagari}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Bengali}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Tamil}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Thai}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Georgian}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Ethiopic}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Latin}\p{Han}\p{Hiragana}\p{Katakana}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Latin}\p{Han}\p{Bopomofo}\p{Common}\p{Inherited}]*\z/,
        /\A[\p{Latin}\p{Han}\p{Hangul}\p{Common}\p{Inherited}]*\z/
      ].freeze
      private_constant :SCRIPTS

      # A name to sign in with, so that two that look the same are the same: wide and narrow forms are folded, letters
      # are small, and it is composed (RFC 8265, UsernameCaseMapped, 3.3; what it may be made of is LOGIN).
      #
      #   Names.login(" Ｍaren ")   # => "maren"
      #
      # @param text [String]
      # @return [String]
      def self.login(text) = clean(text.unicode_normalize(:nfkc)).downcase.unicode_normalize(:nfc)

      # @param text [String]
      # @return [Boolean] whether its letters are of one script, or of several that are written together
      def self.one_script?(text) = SCRIPTS.any? { |script| text.match?(script) }

      # @param text [String] UTF-8
      # @return [String] composed (NFC, Unicode Standard Annex 15), blanks folded into one, none at
      #   the ends, no control characters; empty where nothing is left to be seen
      def self.clean(text)
        text.scrub("").unicode_normalize(:nfc).gsub(BLANK, " ").gsub(UNSEEN, "").gsub(STRAY, "").gsub(
          / {2,}/,
          " "
        ).strip
      end
    end
  end
end
