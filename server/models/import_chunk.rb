# frozen_string_literal: true

module Fobrel
  module Models
    # A piece of an arrived file.
    class ImportChunk < Record
    end
  end
end
