# frozen_string_literal: true

module Fobrel
  module Proofs
    # The letters of what is printed.
    module Fonts
      # Ships with Debian's fonts-dejavu-core: it has Latin, Greek, Cyrillic and more.
      FONTS = "/usr/share/fonts/truetype/dejavu"
      # For what it lacks, one after the other (fonts-droid-fallback, fonts-freefont-ttf,
      # fonts-symbola): East Asian, South Asian and other scripts, signs and emoji.
      OTHERS = {
        "East" => "/usr/share/fonts-droid-fallback/truetype/DroidSansFallback.ttf",
        "South" => "/usr/share/fonts/truetype/freefont/FreeSans.ttf",
        "Serif" => "/usr/share/fonts/truetype/freefont/FreeSerif.ttf",
        "Signs" => "/usr/share/fonts/truetype/ancient-scripts/Symbola_hint.ttf"
      }.freeze

      # @param pdf [Prawn::Document]
      def self.give(pdf)
        pdf.font_families.update("Sheet" => {normal: "#{FONTS}/DejaVuSans.ttf", bold: "#{FONTS}/DejaVuSans-Bold.ttf"})
        others = OTHERS.select { |_, file| File.exist?(file) }
        others.each { |name, file| pdf.font_families.update(name => {normal: file, bold: file}) }
        pdf.fallback_fonts(others.keys)
        pdf.font("Sheet")
      end
    end
  end
end
