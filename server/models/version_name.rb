# frozen_string_literal: true

module Fobrel
  module Models
    # The name of an important version; the version itself never changes.
    class VersionName < Record
      belongs_to :version
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..60}
    end
  end
end
