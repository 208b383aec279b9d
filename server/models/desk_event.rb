# frozen_string_literal: true

module Fobrel
  module Models
    # Something that happened at a desk: a plan sent, a start, another state of its folder.
    class DeskEvent < Record
      belongs_to :desk
      belongs_to :person, optional: true
    end
  end
end
