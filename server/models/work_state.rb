# frozen_string_literal: true

module Fobrel
  module Models
    # A work state that the studio defines, such as "to be checked".
    class WorkState < Record
      self.table_name = "labels"

      include Looks

      belongs_to :library
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..40}
    end
  end
end
