# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # A package unpacked in a folder, for people who work with files.
      module Folder
        # @param folder [String] holding presets/ and assets/, and bundle.json if there is one;
        #   an unpacked package (with data/) will do
        # @return [Bundle] named as the folder when it has no description
        # @raise [Problem]
        def self.read(folder)
          raise Problem, "There is no folder #{folder}." unless File.directory?(folder)
          folder = File.join(folder, "data") if File.file?(File.join(folder, "bagit.txt"))
          payload = Dir.glob(
            "{bundle.json,library.json,{presets,assets,strips,versions,releases}/*}",
            base: folder
          ).sort
            .to_h {
            [_1, File.binread(File.join(folder, _1))]
          }
          unless payload.keys.any? {
            _1.start_with?(
              "presets/"
            )
          }
            raise Problem,
              "#{folder} holds no presets. Put them below presets/, each named <id>.json."
          end
          payload["bundle.json"] ||= JSON.generate({"name" => File.basename(File.expand_path(folder))})
          Reader.read_payload(payload, name: folder)
        end

        # Writes what a package holds into a folder that is empty or not there yet.
        #
        # @param bundle [Bundle]
        # @param folder [String]
        # @raise [Problem] when something lies there already
        def self.write(bundle, folder)
          if File.exist?(folder) && !Dir.empty?(folder)
            raise Problem,
              "#{folder} is not empty. Nothing was written. Name another folder."
          end
          Writer.payload(bundle).each do |path, file|
            FileUtils.mkdir_p(File.dirname(File.join(folder, path)))
            File.binwrite(File.join(folder, path), Writer.bytes(file))
          end
        end
      end
    end
  end
end
