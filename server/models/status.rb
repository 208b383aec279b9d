# frozen_string_literal: true

module Fobrel
  module Models
    # A status that the studio defines, such as "to be checked".
    class Status < Record
      include Looks

      belongs_to :library
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..40}
    end
  end
end
