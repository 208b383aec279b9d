# frozen_string_literal: true

module Fobrel
  module Models
    # A person's role in a library. The one table of who may do what.
    class Membership < Record
      MAY = {
        "guest" => %i[look],
        "artist" => %i[look edit],
        "lead" => %i[look edit hand_out lock]
      }.freeze

      belongs_to :person
      belongs_to :library
      validates :role, inclusion: {in: MAY.keys}

      # @param deed [Symbol] :look, :edit, :hand_out or :lock (and to save what is locked)
      def may?(deed) = MAY.fetch(role).include?(deed)
    end
  end
end
