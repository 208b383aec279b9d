# frozen_string_literal: true

require "prawn"

module Fobrel
  module Proofs
    # A card for beside the keyboard: each key of a desk with the stroke of its brush.
    class KeyCard
      ACROSS = 2
      HIGH = 64
      KEY = 46

      # @param desk [Models::Desk]
      # @param brushes [Array<Finding::StartupPlan::Brush>] those with a key
      def initialize(desk, brushes)
        @desk = desk
        order = Core::Startup::Keys::ROW
        @brushes = brushes.sort_by { |one| [one.key.count("+"), order.index(one.key[-1]) || 99, one.key] }
      end

      # @return [String] the PDF's bytes, A5 lying
      def pdf
        @pdf = Prawn::Document.new(
          page_size: "A5", page_layout: :landscape, margin: 28, info: {Title: "#{@desk.name}, keys", Creator: "Fobrel"}
        )
        Fonts.give(@pdf)
        @brushes.each_slice(rows * ACROSS).with_index do |some, page|
          @pdf.start_new_page unless page.zero?
          text(@desk.name, 0, top + 4, @pdf.bounds.width, 13, :bold)
          some.each_with_index { |brush, place| cell(brush, place / rows, place % rows) }
        end
        @pdf.render
      end

      private

      def top = @pdf.bounds.top

      def rows = ((@pdf.bounds.height - 24) / HIGH).floor

      def cell(brush, column, row)
        wide = (@pdf.bounds.width - 20) / ACROSS
        left, high = column * (wide + 20), top - 24 - (row * HIGH)
        @pdf.stroke_color("8a857a")
        @pdf.stroke_rounded_rectangle([left, high - 4], KEY, 30, 5)
        @pdf.text_box(
          brush.key,
          at: [left, high - 4],
          width: KEY,
          height: 30,
          size: (brush.key.size > 3) ? 8 : 15,
          align: :center,
          valign: :center,
          style: :bold,
          overflow: :shrink_to_fit
        )
        text(brush.name, left + KEY + 8, high - 2, wide - KEY - 8, 9, :bold)
        png = Models::KeptStrip.png_of(brush.version.value, "list")
        @pdf.image(StringIO.new(png), at: [left + KEY + 8, high - 16], fit: [wide - KEY - 8, HIGH - 24])
      end

      def text(words, left, high, width, size, style)
        @pdf.text_box(words, at: [left, high], width:, height: size + 4, size:, style:, overflow: :truncate)
      end
    end
  end
end
