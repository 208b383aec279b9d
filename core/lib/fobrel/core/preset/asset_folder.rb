# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # Pictures lying in a folder as <sha256>.<ending>.
      class AssetFolder
        NAME = /\A(\h{64})\.([a-z0-9]{1,5})\z/

        def initialize(folder)
          @files = Dir.children(folder).filter_map { |file|
            (m = file.match(NAME)) && [m[1], File.join(folder, file)]
          }.to_h
        end

        # @param reference [String] "sha256:…"
        # @return [String] the bytes, which must match their name
        # @yield when there is no such file
        # @raise [Problem] when a file is not what its name says
        def fetch(reference)
          path = @files[Sum.in(reference)] or return yield
          bytes = File.binread(path)
          return bytes if Sum.of(bytes) == Sum.in(reference)
          raise Problem,
            "#{File.basename(path)} is not what its name says: its content was changed. Put the original back."
        end
      end
    end
  end
end
