# frozen_string_literal: true

module Fobrel
  module Models
    # What went out: what, when, who, where to. Each can be done again.
    class Export < Record
      belongs_to :library
      belongs_to :person
      belongs_to :release, optional: true
    end
  end
end
