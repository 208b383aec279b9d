# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # What an export template can do with a value, beside what Liquid brings: other units, and the writing
      # that other forms of text ask for.
      #
      #   {{ preset.paint.flow | percent }} → 70      {{ 90 | clockwise }} → 270
      module Units
        MM_PER_INCH = 25.4

        # A fraction 0–1 as per cent.
        def percent(value) = short(number(value) * 100)

        # A fraction 0–1 on any scale, such as `between: 0, 255`.
        def between(value, from, to) = short(number(from) + (number(to) - number(from)) * number(value))

        # Degrees as radians.
        def radians(value) = short(number(value) * Math::PI / 180)

        # Degrees as turns.
        def turns(value) = short(number(value) / 360.0)

        # Our angles run counter-clockwise; the other way round, 0–360.
        def clockwise(value) = short(-number(value) % 360)

        # Pixels as millimetres at so many dots an inch.
        def mm(value, dpi = 300) = short(number(value) / positive(dpi) * MM_PER_INCH)

        # Pixels as inches at so many dots an inch.
        def inches(value, dpi = 300) = short(number(value) / positive(dpi))

        # A diameter as a radius.
        def radius(value) = short(number(value) / 2)

        # "#rrggbb" as three numbers 0–255 with blanks between.
        def rgb(value) = value.to_s.match?(/\A#\h{6}\z/) ? value[1..].scan(/../).map { _1.to_i(16) }.join(" ") : ""

        # A cell of a CSV table (RFC 4180) that no table program runs as a formula.
        def csv(value) = CSV.generate_line([Table.safe(text(value))]).chomp

        # Text between tags or in an attribute of XML.
        def xml(value)
          text(value).gsub(/[^\t\n\r\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/, "")
            .encode(xml: :text).gsub('"', "&quot;").gsub("'", "&apos;")
        end

        # A value after the = of an INI file: on one line.
        def ini(value) = text(value).tr("\r\n\t", "   ").squeeze(" ").strip.gsub(/[;#=\[\]\\]/) { "\\#{_1}" }

        # Text of a Markdown page, on one line (CommonMark 0.31, 2.4 and 5).
        def markdown(value)
          text(value).tr("\r\n", "  ").strip.gsub(/[\\`*_{}\[\]<>#|~]/) {
            "\\#{_1}"
          }.sub(/\A([-+=]|\d+(?=[.)]))/) { (_1 =~ /\d/) ? "#{_1}\\" : "\\#{_1}" }
        end

        # Any value as JSON.
        def json(value) = JSON.generate(value)

        private

        def text(value) = value.is_a?(Array) ? value.join(", ") : value.to_s

        def number(value)
          found = value.is_a?(Numeric) ? value.to_f : Float(value.to_s, exception: false)
          found&.finite? ? found : raise(Liquid::ArgumentError, "“#{value.to_s[0, 40]}” is not a number")
        end

        def positive(value)
          number(value).then { _1.positive? ? _1 : raise(Liquid::ArgumentError, "dots an inch must be more than 0") }
        end

        # 70, not 70.0 or 70.00000001.
        def short(value) = value.round(6).then { (_1 == _1.round) ? _1.round : _1 }
      end
    end
  end
end
