# frozen_string_literal: true

module Fobrel
  # `fobrel parts`: the shelf of parts of a running server.
  module PartCommands
    private

    # Every tip, grain and drawing, with the brushes that need it.
    def parts_list
      arguments("library with --library", 0..0) do |o|
        in_library(o)
        o.on("--unused") { @options[:unused] = true }
      end
      rows = studio.parts(library)
      rows = rows.select { _1["brushes"].empty? } if @options[:unused]
      lines = rows.map { |row|
        uses = row["brushes"].empty? ? "unused" : row["brushes"].map { _1["name"] }.join(", ")
        "#{row["sum"][0, 12]}  #{row["kind"].ljust(7)}  #{row["width"]} × #{row["height"]}  " \
          "#{row["named"] ? row["name"] : "(of #{row["name"]})"}: #{uses}"
      }
      answer({parts: rows}, lines.empty? ? "There are no such parts." : lines)
    end

    # Puts another part in the place of one, in every brush that has it, as drafts.
    def parts_replace
      from, to = arguments("part and the one that takes its place", 2) { in_library(_1) }
      found = library
      rows = studio.parts(found)
      from, to = [from, to].map { |said| part_called(rows, said) }
      entry = studio.exchange(found, from, to)["entry"]
      answer({entry:, from: from["sum"], to: to["sum"]}, "#{entry["summary"]}. You can undo it in History.")
    end

    # By its name, or by how its sum begins.
    def part_called(rows, said)
      found = rows.select { |row| row["named"] && row["name"].casecmp?(said) }
      found = rows.select { |row| row["sum"].start_with?(said.downcase) } if found.empty? && said.match?(/\A\h{6,64}\z/)
      return found.first if found.size == 1
      why = found.empty? ? "There is no part “#{said}”" : "Several parts are called “#{said}”"
      raise Core::Problem, "#{why}. Nothing was changed. List them with: fobrel parts list"
    end
  end
end
