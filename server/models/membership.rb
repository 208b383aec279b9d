# frozen_string_literal: true

module Fobrel
  module Models
    # A person's role in a library. The one table of who may do what.
    class Membership < Record
      MAY = {
        "guest" => %i[look],
        "artist" => %i[look edit],
        "lead" => %i[look edit hand_out]
      }.freeze

      belongs_to :person
      belongs_to :library
      validates :role, inclusion: {in: MAY.keys}

      # @param deed [Symbol] :look, :edit or :hand_out
      def may?(deed) = MAY.fetch(role).include?(deed)
    end
  end
end
