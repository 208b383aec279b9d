# frozen_string_literal: true

module Fobrel
  module Backups
    # A ZIP with more than 65,535 files, or of more than 4 GB (ZIP64, APPNOTE 4.3.14). The library knows only one way
    # for all that a process writes: packages and kits keep theirs, so that the same content gives the same bytes.
    module Wide
      # @yield while ZIPs are written that way
      def self.zip
        before = Zip.write_zip64_support
        Zip.write_zip64_support = true
        yield
      ensure
        Zip.write_zip64_support = before
      end
    end
  end
end
