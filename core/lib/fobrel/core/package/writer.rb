# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # Writes a bundle as a BagIt 1.0 bag (RFC 8493) in a ZIP. The same content gives the same
      # bytes: fixed order, fixed times, no trace of the machine.
      module Writer
        BAGIT = "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n"
        # The earliest time a ZIP can state.
        THEN = Zip::DOSTime.at(Time.utc(1980, 1, 1).to_i)
        # A picture that is fetched only when it is written; its sum and size are known before.
        Later = Struct.new(:sha256, :bytesize, :fetch)

        # @param bundle [Bundle]
        # @return [String] the ZIP file's bytes
        def self.zip(bundle) = StringIO.new("".b).tap { write(bundle, _1) }.string

        # Writes the ZIP with one picture in memory at a time.
        #
        # @param bundle [Bundle]
        # @param io [IO, StringIO] binary, for reading and writing
        def self.write(bundle, io) = pour(bag(payload(bundle)), io)

        # @param files [Hash{String => String}] by path, in the order wanted
        # @return [String] a ZIP; the same files give the same bytes
        def self.pack(files) = StringIO.new("".b).tap { pour(files, _1) }.string

        # @param bundle [Bundle]
        # @return [Hash{String => String, Later}] the files below data/
        def self.payload(bundle)
          files = {"bundle.json" => pretty(bundle.description_file)}
          bundle.presets.sort_by(&:id).each { files["presets/#{_1.id}.json"] = pretty(_1.to_h) }
          bundle.assets.sort_by(&:first).each do |reference, asset|
            sum = Sum.in(reference)
            files["assets/#{sum}.#{asset.ext}"] = Later.new(sum, asset.bytesize, -> { asset.bytes })
          end
          bundle.strips.sort.each { |id, png| files["strips/#{id}.png"] = png }
          bundle.backup ? files.merge(bundle.backup.files) : files
        end

        # @param payload [Hash{String => String, Later}] the files below data/
        # @return [Hash{String => String, Later}] the whole bag, tag files first
        def self.bag(payload)
          data = payload.transform_keys { "data/#{_1}" }
          info = "Payload-Oxum: #{data.each_value.sum(&:bytesize)}.#{data.size}\n"
          tags = {"bagit.txt" => BAGIT, "bag-info.txt" => info, "manifest-sha256.txt" => manifest(data)}
          tags.merge("tagmanifest-sha256.txt" => manifest(tags)).merge(data)
        end

        # @param file [String, Later]
        # @return [String]
        def self.bytes(file) = file.is_a?(Later) ? file.fetch.call : file

        def self.manifest(files)
          files.sort.map { |path, file|
            "#{file.is_a?(Later) ? file.sha256 : Sum.of(file)}  #{path}\n"
          }.join
        end

        # Keys in order, so that the same preset is written the same way wherever it was kept.
        #
        # @return [String] JSON
        def self.pretty(document) = JSON.pretty_generate(Canonical.ordered(document)) << "\n"

        def self.pour(files, io)
          written = Zip::OutputStream.write_buffer(io) do |zip|
            files.each do |path, file|
              entry = entry(path)
              # Said once more: else the library packs every entry, whatever is said of it.
              zip.put_next_entry(entry, nil, nil, entry.compression_method)
              zip.write(bytes(file))
            end
          end
          written.flush # the library writes through a copy of the file with a buffer of its own
          io.seek(0, IO::SEEK_END)
        end

        def self.entry(path)
          Zip::Entry.new(
            nil,
            path,
            time: THEN,
            compression_method: path.end_with?(".png", ".zip") ? Zip::Entry::STORED : Zip::Entry::DEFLATED
          )
        end
        private_class_method :manifest, :entry, :pour
      end
    end
  end
end
