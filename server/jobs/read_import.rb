# frozen_string_literal: true

module Fobrel
  module Jobs
    # Reads the files of an import, so that a plan can be made.
    class ReadImport < Job
      def self.needs(_about) = :bring

      Part = Struct.new(:bytesize, :ext)
      # So much is read within seconds.
      FEW_FILES = 20
      FEW_BYTES = 20 * 1024 * 1024
      private_constant :Part, :FEW_FILES, :FEW_BYTES

      def self.short?(about)
        files = Models::ImportFile.where(import_id: about["import"])
        files.count <= FEW_FILES && files.sum(:size) <= FEW_BYTES
      end

      private

      def work(about)
        @import = Models::Import.find(about.fetch("import"))
        return discard_import unless @import.state == "reading"
        # Pictures are kept one by one, before anything is said of them: two imports that bring the same would
        # otherwise wait for one another. What comes of nothing is taken away by the night.
        @import.parts.delete_all
        found = self.found
        Models::Record.transaction(requires_new: true) do
          @import.lock!
          next discard_import unless @import.state == "reading"
          @import.items.delete_all
          store(found)
          @import.update!(state: "planned")
          @task.finish("“#{@import.name}” is ready to review. Nothing has been imported yet.")
        end
      end

      def discard_import
        @import.parts.delete_all
        @task.fail("“#{@import.name}” was discarded. Nothing was imported.")
      end

      RELEASE = <<~SQL
        INSERT INTO import_parts (import_id, sha256, ext, bytes) VALUES ($1, $2, 'zip', $3) ON CONFLICT DO NOTHING
      SQL
      private_constant :RELEASE

      def found
        tell = progress
        total = @import.files.sum(:size)
        read = 0
        files = @import.files.map { Core::Package::Delivery::File.new(_1.name, _1.unpacked) }
        Models::Asset.pour do |keep, put|
          Core::Package::Delivery.read(files) do |reference, asset|
            sum = Core::Sum.in(reference)
            (asset.ext == "zip") ? put.call(RELEASE, @import.id, sum, bytes: asset.bytes) : keep.call(sum, asset)
            tell.call([read += asset.bytesize, total].min, total, "Reading #{@import.name}")
            Part.new(asset.bytesize, asset.ext)
          end
        end
      ensure
        files&.each { _1.io.close }
      end

      # One import may bring so many things, and so many places for them in sets.
      MOST = 20_000
      MOST_PLACES = 200_000

      def check_size(delivery)
        places = delivery.sets.sum { _1.presets.size }
        return if delivery.items.size <= MOST && places <= MOST_PLACES && delivery.sets.size <= MOST
        raise Core::Problem,
          "“#{@import.name}” holds #{delivery.items.size} things in #{delivery.sets.size} sets with #{places} " \
            "places. An import may bring #{MOST} things, as many sets, and #{MOST_PLACES} places. Nothing was taken " \
            "in. Bring it in parts."
      end

      def store(delivery)
        check_size(delivery)
        rows = delivery.items.each_with_index.map { |item, position| row(item, position) }
        rows.each_slice(500) { Models::ImportItem.insert_all!(_1) }
        parts = delivery.assets.map { |reference, part|
          {import_id: @import.id, sha256: Core::Sum.in(reference), ext: part.ext}
        }
        parts.each_slice(1000) do |some|
          sums = some.map { _1[:sha256] }
          kept = Models::Asset.where(sha256: sums).update_all(created_at: Time.current)
          raise "#{some.size - kept} pictures were not kept" unless kept == some.size
          Models::ImportPart.insert_all(some)
        end
        words = delivery.words.transform_keys(&:to_s).merge(
          "sets" => delivery.sets.map(&:to_h),
          "tags" => delivery.tags.map(&:to_h),
          "export_templates" => delivery.export_templates.map(&:to_h),
          "library" => delivery.library
        ).compact
        @import.update!(words: JSON.parse(printable(JSON.generate(words)).gsub("\\u0000", "")))
        propose
      end

      def row(item, position)
        {
          import_id: @import.id,
          position:,
          kind: item.kind,
          name: printable(item.name),
          source: printable(item.source),
          sentence: printable(item.sentence.to_s)[0, 1000],
          version: item.version || 1,
          document_id: item.preset&.id,
          document: item.preset&.to_h || item.document,
          fingerprint: item.preset&.fingerprint,
          needs: item.preset&.needs || [],
          group: item.group && printable(item.group),
          way: item.way,
          usual: item.usual,
          past: item.past
        }
      end

      # What was released as a bundle is proposed as a bundle and a set of its name, unless somebody has
      # decided already.
      def propose
        # Every package has a version; one that was released has a licence too.
        return if @import.words["licence"].to_s.empty? || @import.words["library"] || @import.choices.key?("where")
        name = Core::Names.clean(@import.words["name"].to_s)[0, 90]
        standing = @import.library.brush_sets.where.not(query: nil).named(name).exists?
        unless name.empty?
          @import.update!(
            choices: @import.choices.merge(
              "where" => {
                "bundle" => true,
                "set" => (standing ? "" : name)
              }
            )
          )
        end
      end

      # Names come from outside; the database keeps no NUL.
      def printable(text) = text.dup.force_encoding(Encoding::UTF_8).scrub.delete("\0")

      def undone = @import&.reload&.update!(state: "open")
    end
  end
end
