# frozen_string_literal: true

module Fobrel
  module Models
    # A page of a piece of work: a picture that was brought, or what a text or figure makes. It never changes.
    class WorkPage < Record
      belongs_to :work

      # What is told of it without its pictures.
      scope :plain, -> { select(*(column_names - %w[screen labels])) }

      # @param read [Core::Tip::ApartWork::Read]
      # @param file [String] the bytes it was read from
      # @param made [Hash, nil] the words of a text or figure
      # @return [WorkPage]
      def self.keep(work, read, file, name:, made: nil)
        bytes = read.picture || file
        ext = Core::Tip::Picture.kind(bytes) || "png"
        work.pages.create!(
          name: name[0, 120],
          sha256: Asset.keep(bytes, ext),
          drawing: read.lines && Asset.keep(read.lines, "svg"),
          made:,
          facts: read.facts,
          screen: read.screen,
          labels: read.labels
        )
      end

      # @return [Array] what Core::Tip::Page.kept takes
      def to_a = [facts, screen, labels]

      # @return [Core::Tip::Page] to be told of; its pictures need not be there
      def page = Core::Tip::Page.kept(facts, nil, nil)

      # @return [Boolean] whether it is a drawing of lines
      def lines? = !drawing.nil? || !!made&.key?("figure")

      # @return [String] SVG
      def lines = drawing ? Asset::Bytes.fetch(drawing) { "" } : Core::Tip::Figure[made["figure"]].svg

      # @return [String] the picture it is made from in full
      def file = Asset::Bytes.fetch(sha256) { raise Core::Problem, "The picture “#{name}” is not here any more." }
    end
  end
end
