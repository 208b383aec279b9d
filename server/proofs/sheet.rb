# frozen_string_literal: true

require "prawn"
require "zip"

module Fobrel
  module Proofs
    # A printable sheet of strips with names, sizes, keys, traits and notes.
    class Sheet
      PAGES = {"A4" => "A4", "A3" => "A3", "Letter" => "LETTER"}.freeze
      GROUNDS = {"white" => "ffffff", "grey" => "808080", "black" => "000000"}.freeze
      SHOWN = %w[size version keys traits licence notes].freeze
      DPI = 150

      # @param presets [Array<Preset>] in order
      # @param title [String]
      # @param options [Hash] "page" (a key of PAGES), "landscape", "columns" 1–4, "ground" (a key
      #   of GROUNDS), "shown" (of SHOWN)
      def initialize(presets, title:, options: {})
        @presets = presets
        @title = title
        @page = PAGES.fetch(options["page"], "A4")
        @layout = (options["landscape"] == true) ? :landscape : :portrait
        @columns = options["columns"].to_i.clamp(1, 4)
        @ground = GROUNDS.fetch(options["ground"], GROUNDS["white"])
        @shown = SHOWN & (options["shown"].is_a?(Array) ? options["shown"] : SHOWN)
      end

      # @return [String] the PDF's bytes
      # @raise [Core::Problem] when there is nothing to print
      def pdf
        raise Core::Problem, "No brushes selected. Select the brushes to print first." if @presets.empty?
        @pdf = Prawn::Document.new(
          page_size: @page,
          page_layout: @layout,
          margin: 36,
          info: {Title: @title, Creator: "Fobrel"}
        )
        Fonts.give(@pdf)
        fill_pages
        @presets.each_slice(rows_on_page * @columns).with_index do |some, index|
          @pdf.start_new_page unless index.zero?
          heading(index)
          some.each_with_index { |preset, place| cell(preset, place % @columns, place / @columns) }
        end
        @pdf.number_pages("<page> / <total>", at: [@pdf.bounds.right - 60, -14], width: 60, align: :right, size: 8)
        @pdf.render
      end

      # @return [String] a ZIP of one PNG a page
      def png_zip
        bytes = pdf
        count = Vips::Image.pdfload_buffer(bytes, dpi: 10).get("n-pages")
        Zip::OutputStream.write_buffer do |zip|
          count.times do |page|
            zip.put_next_entry(
              Zip::Entry.new(
                "",
                format("proof-%02d.png", page + 1),
                time: Zip::DOSTime.at(315_532_800)
              ),
              nil,
              nil,
              Zip::Entry::STORED
            )
            zip.write(
              Vips::Image.pdfload_buffer(
                bytes,
                page:,
                dpi: DPI
              ).flatten(background: [255, 255, 255]).pngsave_buffer
            )
          end
        end.string
      end

      private

      GAP = 14
      HEAD = 34
      private_constant :GAP, :HEAD

      # Few brushes stand in fewer columns, as large as the page allows; many are shared out evenly
      # among the pages.
      def fill_pages
        wanted = @columns
        @columns = (1..wanted).find { |columns| (@columns = columns) && @presets.size <= room * columns } || wanted
        lines = @presets.size.fdiv(@columns).ceil
        @rows = lines.fdiv(lines.fdiv(room).ceil).ceil
      end

      # How many lines of brushes a page has room for.
      def room = [((@pdf.bounds.height - HEAD) / (strip_height + words_height + 8)).floor, 1].max

      def width = (@pdf.bounds.width - GAP * (@columns - 1)) / @columns

      def strip_height = width * 120.0 / 700

      FIRST = %w[size version keys].freeze
      SECOND = %w[traits licence].freeze
      private_constant :FIRST, :SECOND

      def words_height
        15 + [FIRST, SECOND].count { |line| (@shown & line).any? } * 10 + (@shown.include?("notes") ? 19 : 0)
      end

      def rows_on_page = @rows

      def heading(index)
        @pdf.fill_color("22252b")
        if index.zero?
          @pdf.text_box(
            @title,
            at: [0, @pdf.bounds.top],
            size: 13,
            style: :bold,
            width: @pdf.bounds.width * 0.7,
            height: 18,
            overflow: :shrink_to_fit
          )
        end
        @pdf.text_box(
          "#{@presets.size} brushes · #{Time.now.utc.strftime("%-d %B %Y")}",
          at: [@pdf.bounds.right - 200, @pdf.bounds.top - 2],
          size: 8,
          width: 200,
          align: :right
        )
      end

      def cell(preset, column, row)
        left = column * (width + GAP)
        # The rows share the page evenly.
        top = @pdf.bounds.top - HEAD - row * (@pdf.bounds.height - HEAD) / rows_on_page
        @pdf.fill_color(@ground)
        @pdf.fill_rectangle([left, top], width, strip_height)
        @pdf.image(StringIO.new(strip(preset)), at: [left, top], width:, height: strip_height)
        @pdf.stroke_color("c9c1b0")
        @pdf.line_width(0.4)
        @pdf.stroke_rectangle([left, top], width, strip_height)
        words(preset, left, top - strip_height - 4)
      end

      # The picture that was chosen for a brush stands at the right of its words.
      def picture(preset, left, top)
        bytes = preset.picture && Models::Asset::Bytes.fetch(preset.picture) { nil } or return 0
        side = [words_height - 3, width / 3].min
        @pdf.image(StringIO.new(bytes), at: [left + width - side, top], width: side, height: side)
        side + 4
      end

      def words(preset, left, top)
        @narrower = picture(preset, left, top)
        line(preset.name, left, top, 9, "22252b", :bold)
        said = {
          "size" => "#{preset.size.round(1)} px".sub(".0 ", " "),
          "version" => "version #{numbers[preset.current_version_id]}",
          "keys" => keys[preset.id],
          "traits" => preset.traits.join(
            " · "
          ).presence,
          "licence" => preset.licence.presence || "no licence"
        }
        lines = [FIRST, SECOND].map { |line| said.values_at(*(line & @shown)).compact.join(" · ") }
        lines.each_with_index { |text, index| line(text, left, top - 12 - index * 10, 7, "65625b") }
        line(said_of(preset), left, top - 12 - lines.size * 10, 7, "22252b", :normal, 19) if @shown.include?("notes")
      end

      # What it is for, then the notes.
      def said_of(preset)
        about = preset.current_version.value["about"]
        [about["purpose"], preset.notes.presence, about["ground"], about["sizes"]].compact.join(" · ")
      end

      def line(text, left, top, size, colour, style = :normal, height = size + 3)
        return if text.empty?
        @pdf.fill_color(colour)
        @pdf.text_box(
          text.tr("\u0000-\u001f", " "),
          at: [left, top],
          width: width - @narrower,
          height:,
          size:,
          style:,
          overflow: :truncate
        )
      end

      def numbers = @numbers ||= Models::Version.where(id: @presets.map(&:current_version_id)).pluck(:id, :number).to_h

      # On which key each desk has a brush.
      def keys
        @keys ||= begin
          desks = Models::Desk.workplaces.in_use.where(id: Models::StartItem.where(preset: @presets).select(:desk_id))
          found = desks.order(:name).map { |desk| [desk.name, desk.key_of] }
          @presets.to_h { |preset|
            [
              preset.id,
              found.filter_map { |name, of|
                "#{name}: #{of[preset.document_id]}" if of[preset.document_id]
              }.join(", ")
            ]
          }
        end
      end

      def strip(preset) = Models::KeptStrip.png_for(preset.fingerprint, "list") { preset.current_version.value }
    end
  end
end
