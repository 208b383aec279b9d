# frozen_string_literal: true

module Fobrel
  module Models
    # A person's role in a library. The one table of who may do what.
    class Membership < Record
      MAY = {
        "guest" => %i[look],
        "artist" => %i[look edit],
        "lead" => %i[look edit hand_out lock keep]
      }.freeze

      belongs_to :person
      belongs_to :library
      validates :role, inclusion: {in: MAY.keys}

      # @param deed [Symbol] :look, :edit, :hand_out, :lock (and to save what is locked) or :keep (how long what is
      #   kept)
      def may?(deed) = MAY.fetch(role).include?(deed)
    end
  end
end
