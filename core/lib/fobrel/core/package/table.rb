# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # Presets as one CSV table (RFC 4180): a row each, a column for each setting, named by its
      # path, such as tip.size.base. Writes what it reads and reads what it writes.
      module Table
        # Raised with one sentence when a text is no such table.
        class Unreadable < Problem; end

        MOST = 20_000

        # @param presets [Array<Preset::Preset>]
        # @return [String] UTF-8; a column for each setting that any of them has
        def self.write(presets)
          rows = presets.map { flat(Preset::Schema.fill(_1.to_h)) }
          columns = rows.flat_map(&:keys).uniq
          CSV.generate { |csv|
            [
              columns,
              *rows.map { |row|
                row.values_at(*columns).map {
                  safe(_1)
                }
              }
            ].each { csv << _1 }
          }
        end

        # @param text [String]
        # @return [Array<Hash>] the settings of each row, not checked yet; see #preset
        # @raise [Unreadable]
        def self.read(text, name: "The table")
          text = text.dup.force_encoding(Encoding::UTF_8).delete_prefix("\uFEFF")
          unless text.valid_encoding?
            raise Unreadable,
              "#{name} is not UTF-8 text. Nothing was kept. Save it as CSV in UTF-8."
          end
          rows = CSV.parse(
            text,
            headers: true,
            liberal_parsing: false,
            col_sep: (text.lines.first.to_s.count(";") > text.lines.first.to_s.count(",")) ? ";" : ","
          )
          headers = rows.headers.compact.map(&:strip)
          unless headers.include?("name")
            raise Unreadable,
              "#{name} has no column “name”, so it is not a table of brush settings. Nothing was kept."
          end
          raise Unreadable, "#{name} has more than #{MOST} rows. Nothing was kept. Split it." if rows.size > MOST
          rows.map { |row| document(row) }
        rescue CSV::MalformedCSVError
          raise Unreadable, "#{name} is not a CSV table. Nothing was kept. Save it as CSV in UTF-8."
        end

        # A row as a preset: what has no cell takes its default.
        #
        # @param document [Hash] as #read gives it
        # @raise [Preset::Preset::Invalid]
        def self.preset(document) = Preset::Preset.restore(Preset::Schema.fill(Preset::Preset[document].to_h))

        # A cell that a table program would run as a formula is told apart by an apostrophe.
        #
        # @param value [Object]
        def self.safe(value) = (value.is_a?(String) && value.match?(/\A[=+\-@\t\r]/)) ? "'#{value}" : value

        class << self
          private

          def flat(value, path = [])
            case value
            when Hash then value.empty? ? {path.join(".") => "{}"} : value.flat_map { |key, inner|
              flat(inner, path + [key]).to_a
            }.to_h
            when Array then {path.join(".") => JSON.generate(value)}
            else {path.join(".") => value}
            end
          end

          # Empty cells are left out, and so take their defaults.
          def document(row)
            found = {}
            row.each do |column, cell|
              next if column.nil? || cell.nil? || cell == ""
              path = column.strip.split(".")
              next if path.empty? || path.size > 8
              holder = path[0..-2].inject(found) { |at, key| at.is_a?(Hash) ? (at[key] ||= {}) : {} }
              holder[path.last] = value(path, cell) if holder.is_a?(Hash)
            end
            found["format"] ||= Preset::Preset::FORMAT
            found["id"] ||= SecureRandom.uuid
            found["method"] ||= "dabs"
            found
          end

          def value(path, cell)
            cell = cell.delete_prefix("'") if cell.match?(/\A'[=+\-@\t\r]/)
            setting = Preset::Schema.setting(path) || {}
            return cell if setting["type"] == "string" || path == ["name"]
            return parsed(cell) if cell.match?(/\A[\[{]/)
            return cell.split if setting["type"] == "array"
            return cell if setting.key?("enum")
            number(cell) || {"true" => true, "false" => false}.fetch(cell.downcase, cell)
          end

          def parsed(cell)
            JSON.parse(cell, max_nesting: 8)
          rescue JSON::ParserError
            cell
          end

          # A comma for a point, as tables of many countries have it.
          def number(cell)
            return unless cell.match?(/\A-?\d{1,15}([.,]\d{1,15})?([eE][+-]?\d{1,2})?\z/)
            cell.match?(/\A-?\d+\z/) ? Integer(cell, 10) : Float(cell.tr(",", "."))
          end
        end
      end
    end
  end
end
