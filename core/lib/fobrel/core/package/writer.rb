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

        # @param bundle [Bundle]
        # @return [String] the ZIP file's bytes
        def self.zip(bundle) = pack(bag(payload(bundle)))

        # @param files [Hash{String => String}] by path, in the order wanted
        # @return [String] a ZIP; the same files give the same bytes
        def self.pack(files)
          Zip::OutputStream.write_buffer(StringIO.new("".b)) do |zip|
            files.each do |path, bytes|
              zip.put_next_entry(entry(path))
              zip.write(bytes)
            end
          end.string
        end

        # @param bundle [Bundle]
        # @return [Hash{String => String}] the files below data/
        def self.payload(bundle)
          files = {"bundle.json" => pretty(bundle.description_file)}
          bundle.presets.sort_by(&:id).each { files["presets/#{_1.id}.json"] = pretty(_1.to_h) }
          bundle.assets.sort_by(&:first).each { |reference, asset| files["assets/#{reference.delete_prefix("sha256:")}.#{asset.ext}"] = asset.bytes }
          bundle.strips.sort.each { |id, png| files["strips/#{id}.png"] = png }
          files
        end

        # @param payload [Hash{String => String}] the files below data/
        # @return [Hash{String => String}] the whole bag, tag files first
        def self.bag(payload)
          data = payload.transform_keys { "data/#{_1}" }
          info = "Payload-Oxum: #{data.each_value.sum(&:bytesize)}.#{data.size}\n"
          tags = {"bagit.txt" => BAGIT, "bag-info.txt" => info, "manifest-sha256.txt" => manifest(data)}
          tags.merge("tagmanifest-sha256.txt" => manifest(tags)).merge(data)
        end

        def self.manifest(files) = files.sort.map { |path, bytes| "#{Digest::SHA256.hexdigest(bytes)}  #{path}\n" }.join

        # Keys in order, so that the same preset is written the same way wherever it was kept.
        def self.pretty(document) = JSON.pretty_generate(JSON.parse(document.to_json_c14n)) << "\n"

        def self.entry(path)
          Zip::Entry.new(nil, path, time: THEN, compression_method: path.end_with?(".png") ? Zip::Entry::STORED : Zip::Entry::DEFLATED)
        end
        private_class_method :manifest, :pretty, :entry
      end
    end
  end
end
