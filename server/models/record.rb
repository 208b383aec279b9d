# frozen_string_literal: true

module Fobrel
  module Models
    # What all tables share.
    class Record < ActiveRecord::Base
      self.abstract_class = true

      # Those with one of these names, in capitals or not: tags, categories, sets, states, desks … whose name is unique
      # that way (each such table has an index on it).
      #
      # @param names [Array<String>] as Core::Names.clean gives them
      scope :named, ->(*names) { where("lower(#{quoted_table_name}.name) IN (?)", names.flatten.map(&:downcase)) }
    end
  end
end
