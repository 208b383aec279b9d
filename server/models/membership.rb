# frozen_string_literal: true

module Fobrel
  module Models
    # A person's role in a library. The one table of who may do what.
    class Membership < Record
      MAY = {
        "guest" => %i[look],
        "artist" => %i[look edit bring],
        "lead" => %i[look edit bring send_to_desk lock keep people decide]
      }.freeze

      belongs_to :person
      belongs_to :library
      validates :role, inclusion: {in: MAY.keys}
      after_update { Live.tell(what: Live::ACCESS, people: [person_id]) }
      after_destroy { Live.tell(what: Live::ACCESS, people: [person_id]) }

      # @param deed [Symbol] :look, :edit, :bring (imports), :send_to_desk, :lock (and to save what is locked), :keep
      #   (the library itself, and how long what is kept), :people or :decide (on proposals)
      def may?(deed) = MAY.fetch(role).include?(deed) && library.lets?(deed)
    end
  end
end
