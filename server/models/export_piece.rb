# frozen_string_literal: true

module Fobrel
  module Models
    # A piece of a file that waits.
    class ExportPiece < Record
    end
  end
end
