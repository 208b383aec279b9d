# frozen_string_literal: true

module Fobrel
  module Jobs
    # Takes the files of an arrival apart, so that a plan can be made.
    class ReadArrival < Job
      def self.needs(_about) = :bring

      Part = Struct.new(:bytesize, :ext)
      # So much is read within seconds.
      FEW_FILES = 20
      FEW_BYTES = 20 * 1024 * 1024
      private_constant :Part, :FEW_FILES, :FEW_BYTES

      def self.short?(about)
        files = Models::ArrivalFile.where(arrival_id: about["arrival"])
        files.count <= FEW_FILES && files.sum(:size) <= FEW_BYTES
      end

      private

      def work(about)
        @arrival = Models::Arrival.find(about.fetch("arrival"))
        return let_go unless @arrival.state == "reading"
        # Pictures are kept one by one, before anything is said of them: two arrivals that bring the same would
        # otherwise wait for one another. What comes of nothing is taken away by the night.
        @arrival.parts.delete_all
        found = self.found
        Models::Record.transaction(requires_new: true) do
          @arrival.lock!
          next let_go unless @arrival.state == "reading"
          @arrival.items.delete_all
          store(found)
          @arrival.update!(state: "planned")
          @task.finish("“#{@arrival.name}” is ready to review. Nothing has been imported yet.")
        end
      end

      def let_go
        @arrival.parts.delete_all
        @task.fail("“#{@arrival.name}” was discarded. Nothing was imported.")
      end

      RELEASE = <<~SQL
        INSERT INTO arrival_parts (arrival_id, sha256, ext, bytes) VALUES ($1, $2, 'zip', $3) ON CONFLICT DO NOTHING
      SQL
      private_constant :RELEASE

      def found
        tell = progress
        total = @arrival.files.sum(:size)
        read = 0
        files = @arrival.files.map { Core::Package::Delivery::File.new(_1.name, _1.unpacked) }
        Models::Asset.pour do |keep, put|
          Core::Package::Delivery.read(files) do |reference, asset|
            sum = Core::Sum.in(reference)
            (asset.ext == "zip") ? put.call(RELEASE, @arrival.id, sum, bytes: asset.bytes) : keep.call(sum, asset)
            tell.call([read += asset.bytesize, total].min, total, "Reading #{@arrival.name}")
            Part.new(asset.bytesize, asset.ext)
          end
        end
      ensure
        files&.each { _1.io.close }
      end

      # One arrival may bring so many things, and so many places for them in sets.
      MOST = 20_000
      MOST_PLACES = 200_000

      def check_size(delivery)
        places = delivery.sets.sum { _1.presets.size }
        return if delivery.items.size <= MOST && places <= MOST_PLACES && delivery.sets.size <= MOST
        raise Core::Problem,
          "“#{@arrival.name}” holds #{delivery.items.size} things in #{delivery.sets.size} sets with #{places} " \
            "places. An import may bring #{MOST} things, as many sets, and #{MOST_PLACES} places. Nothing was taken " \
            "in. Bring it in parts."
      end

      def store(delivery)
        check_size(delivery)
        rows = delivery.items.each_with_index.map { |item, position| row(item, position) }
        rows.each_slice(500) { Models::ArrivalItem.insert_all!(_1) }
        parts = delivery.assets.map { |reference, part|
          {arrival_id: @arrival.id, sha256: Core::Sum.in(reference), ext: part.ext}
        }
        parts.each_slice(1000) do |some|
          sums = some.map { _1[:sha256] }
          kept = Models::Asset.where(sha256: sums).update_all(created_at: Time.current)
          raise "#{some.size - kept} pictures were not kept" unless kept == some.size
          Models::ArrivalPart.insert_all(some)
        end
        words = delivery.words.transform_keys(&:to_s).merge(
          "sets" => delivery.sets.map(&:to_h),
          "tags" => delivery.tags.map(&:to_h),
          "recipes" => delivery.recipes.map(&:to_h),
          "library" => delivery.library
        ).compact
        @arrival.update!(words: JSON.parse(printable(JSON.generate(words)).gsub("\\u0000", "")))
        propose
      end

      def row(item, position)
        {
          arrival_id: @arrival.id,
          position:,
          kind: item.kind,
          name: printable(item.name),
          source: printable(item.source),
          sentence: printable(item.sentence.to_s)[0, 1000],
          edition: item.edition || 1,
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
        return if @arrival.words["licence"].to_s.empty? || @arrival.words["library"] || @arrival.choices.key?("where")
        name = Core::Names.clean(@arrival.words["name"].to_s)[0, 90]
        standing = @arrival.library.brush_sets.where.not(query: nil).named(name).exists?
        unless name.empty?
          @arrival.update!(
            choices: @arrival.choices.merge(
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

      def undone = @arrival&.reload&.update!(state: "open")
    end
  end
end
