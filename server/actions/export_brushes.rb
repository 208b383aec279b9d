# frozen_string_literal: true

module Fobrel
  module Actions
    # Writes brushes as a file for somebody else, and writes down that it did: a package, plain
    # open files, a table, a sheet to print, what an export template makes of them, or a whole library.
    class ExportBrushes < Action
      # What comes out: its bytes in a file at its beginning, what to call it, its type; and under which number it is
      # written down.
      Outcome = Struct.new(:io, :file, :type, :id)

      # Each kind, and what the history calls it.
      SAID = {
        "package" => "a package",
        "kit" => "a kit",
        "inventory" => "an inventory",
        "proof" => "a proof sheet",
        "export_template" => "text files",
        "backup" => "a backup"
      }.freeze
      ZIP = "application/zip"
      COLUMNS = %w[name size version category tags traits author licence fingerprint used_in changed notes].freeze

      # In no transaction: what is written for minutes must hold up nobody. The line in the history is one of its own.
      def self.call(...) = new(...).call

      # @param wish [Hash] "kind" (a key of SAID), "of" (see #ids), "name", "options" (of a proof
      #   sheet: see Proofs::Sheet; "format" pdf or png; "export_templates" of a package; "export_template" its id, or
      #   "example" the name of one that ships)
      # @param goes_to [String] where it is taken
      # @param io [IO] binary, empty: where it is written
      def initialize(library:, person:, wish:, goes_to: "this browser", io: nil)
        @io = io || Tempfile.new("fobrel-export", binmode: true).tap(&:unlink)
        @library = library
        @person = person
        @wish = wish.slice("kind", "of", "name", "options")
        @kind = @wish["kind"]
        @options = @wish["options"].is_a?(Hash) ? @wish["options"] : {}
        @goes_to = goes_to
      end

      # @return [Outcome]
      def call
        unless SAID.key?(@kind)
          raise Core::Problem,
            "There is no kind of export called “#{@kind}”. Take one of: #{SAID.keys.join(", ")}."
        end
        @presets = presets_of(@library, ids)
        raise Core::Problem, "No brushes selected. Select the brushes to export first." if @presets.empty?
        ending, type = send(@kind, @io)
        @io.rewind
        file = "#{plain}#{ending}"
        Outcome.new(@io, file, type, note(@io, file).id)
      end

      # @return [Boolean] whether one would wait too long for it
      def long? = SAID.key?(@kind) && Models::Export.long?(@kind, @library.presets.where(id: ids).pluck(:fingerprint))

      # @return [String] what is told while it is made
      def words = "Writing #{SAID.fetch(@kind)}: #{name}"

      private

      def note(io, file)
        sum = OpenSSL::Digest.new("SHA256")
        (sum << io.read(1 << 20)) until io.eof?
        io.rewind
        NoteExport.call(
          library: @library,
          person: @person,
          kind: @kind,
          name:,
          file:,
          goes_to: @goes_to,
          wish: @wish,
          count: @presets.size,
          size: io.size,
          sha256: sum.hexdigest
        )
      end

      def of = @wish["of"].is_a?(Hash) ? @wish["of"] : {}

      # Brushes by their ids, of a set, of a category with those below it, or all.
      def ids
        return @library.presets.in_order.ids if @kind == "backup"
        return Array(of["preset_ids"]).grep(Integer) if of["preset_ids"]
        return set_ids(@library.brush_sets.find(of["set"].to_s.to_i)) if of["set"]
        return category_ids(@library.categories.find(of["category"].to_s.to_i)) if of["category"]
        of["library"] ? @library.presets.shown.in_order.ids : []
      end

      def category_ids(category)
        @library.presets.shown.in_order.where(category_id: Models::Category.with_children([category.id])).ids
      end

      def set_ids(set)
        return set.preset_ids_in_order & @library.presets.shown.ids unless set.automatic?
        set.search(@person).in_order.flat_map(&:ids)
      end

      def name = @wish["name"].to_s.strip.presence || @library.name

      def plain
        text = Core::Package::FileName.plain(name).downcase.gsub(/[^[:alnum:]]+/, "-").gsub(
          /\A-+|-+\z/,
          ""
        ).presence || "brushes"
        (@kind == "package") ? text : "#{text}-#{Time.now.utc.strftime("%Y-%m-%d")}"
      end

      def package(io, export_templates: @options["export_templates"] == true, backup: false)
        bundle = ExportPackage.new(
          library: @library,
          person: @person,
          ids: @presets.map(&:id),
          name:,
          export_templates:,
          backup:,
          sets: asked_sets
        ).bundle
        Core::Package::Writer.write(bundle, io)
        Core::Package::ReadBack.check(io, bundle)
        [".fobrel.zip", ZIP]
      end

      # The sets that were asked for, and no others: one, all of the library, or none. A set that fills
      # itself travels as what it holds now.
      def asked_sets
        return if @kind == "backup" || of["library"]
        return [] unless of["set"]
        set = @library.brush_sets.find(of["set"].to_s.to_i)
        documents = @presets.to_h { [_1.id, _1.document_id] }
        sections = set.automatic? ? {} : set.section_by_preset.transform_keys { documents[_1] }.except(nil)
        [
          Core::Package::Bundle::Group.new(
            name: set.name,
            presets: @presets.map(&:document_id),
            sections: sections.presence
          )
        ]
      end

      def backup(io) = package(io, export_templates: true, backup: true)

      def kit(io)
        values = ExportPackage.tagged(@presets)
        io.write(
          Core::Package::Kit.zip(
            values,
            assets: Models::Asset::Bytes,
            strips: Models::KeptStrip.of_all(@presets)
          )
        )
        ["-kit.zip", ZIP]
      end

      def proof(io)
        sheet = Proofs::Sheet.new(@presets, title: name, options: @options)
        png = @options["format"] == "png"
        io.write(png ? sheet.png_zip : sheet.pdf)
        png ? ["-proof.zip", ZIP] : ["-proof.pdf", "application/pdf"]
      end

      def export_template(io)
        files = WriteExportTemplate.new(
          library: @library,
          export_template: chosen_export_template,
          presets: @presets,
          name:
        ).call
        if files.size == 1
          return io.write(files.values.first) && [
            File.extname(files.keys.first),
            "text/plain; charset=utf-8"
          ]
        end
        io.write(Core::Package::Writer.pack(files))
        [".zip", ZIP]
      end

      # One that is kept here, or an example that ships, by its name.
      def chosen_export_template
        example = @options["example"]
        return @library.export_templates.find(@options["export_template"].to_s.to_i).value unless example
        Core::Package::ExportTemplate.examples.find {
          _1.name == example
        } or raise Core::Problem,
          "There is no example called “#{example.to_s[0, 60]}”. Nothing was written. There are " \
            "#{Core::Package::ExportTemplate.examples.map(&:name).join(", ")}."
      end

      def inventory(io)
        tags = Models::Tagging.where(preset: @presets).joins(:tag).order("tags.name").pluck(
          :preset_id,
          "tags.name"
        ).group_by(&:first)
        categories = Models::Category.paths(@library).transform_values { _1.join(" / ") }
        places = Finding::Uses.here(@library, @presets.map(&:id))
        io.write(
          CSV.generate do |csv|
            csv << COLUMNS
            @presets.each do |preset|
              row = [
                preset.name,
                preset.size,
                preset.current_version.number,
                categories[preset.category_id],
                tags.fetch(preset.id, []).map(&:last).join(", "),
                preset.traits.join(", "),
                preset.author,
                preset.licence,
                preset.fingerprint,
                places[preset.id].join(", "),
                preset.changed_at&.iso8601,
                preset.notes
              ]
              csv << row.map { Core::Package::Table.safe(_1) }
            end
          end
        )
        ["-inventory.csv", "text/csv; charset=utf-8"]
      end
    end
  end
end
