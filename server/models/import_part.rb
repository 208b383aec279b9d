# frozen_string_literal: true

module Fobrel
  module Models
    # Says which pictures came with an import (they are kept where all are: see Asset), and holds the releases that
    # came with a backup.
    class ImportPart < Record
      belongs_to :import

      scope :pictures, -> { where.not(ext: "zip") }
    end
  end
end
