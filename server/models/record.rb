# frozen_string_literal: true

module Fobrel
  module Models
    # What all tables share.
    class Record < ActiveRecord::Base
      self.abstract_class = true
    end
  end
end
