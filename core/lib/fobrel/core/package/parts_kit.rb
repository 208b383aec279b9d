# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # Parts as plain open files: each a PNG black on white and one on nothing; lines as they are.
      #
      #   PartsKit.zip([["Kelp", false, png]])   # => the ZIP file's bytes
      module PartsKit
        # @param parts [Array<Array(String, Boolean, String)>] name, whether in its own colours, the file
        # @return [String] a ZIP; the same content gives the same bytes
        def self.zip(parts)
          names = FileName.each_once(parts.map(&:first))
          files = parts.zip(names).flat_map do |(_, own, bytes), name|
            next [["#{name}.svg", bytes]] if Tip::Page.svg?(bytes)
            Kit.picture(bytes, name, own)
          end
          Writer.pack(files.to_h)
        end
      end
    end
  end
end
