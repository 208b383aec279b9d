# frozen_string_literal: true

module Fobrel
  module Actions
    # Removes a seat or a template for good. What lies in a seat's folder stays there; what began from a template keeps
    # its plan as it is.
    class RemoveSeat < Deed
      # @param seat [Models::Seat]
      def initialize(seat:, person:)
        @seat = seat
        @person = person
      end

      # @return [Models::LedgerEntry]
      # @raise [Core::Problem] where the desk is in use
      def call
        @seat.library.hold
        @seat.lock!
        if !@seat.template && @seat.put_aside_at.nil? && @seat.plans.any?
          raise Core::Problem, "#{@seat.name} is in use. Nothing was removed. Take the desk out of use first."
        end
        children = @seat.children.to_a
        keep_plans
        Models::AccessToken.where(seat: @seat).delete_all
        folder = " Its folder var/seats/#{@seat.folder} stays as it is." unless @seat.template || @seat.plans.none?
        what = @seat.template ? "The template" : "The desk"
        @seat.destroy!
        Models::Live.tell(what: "library", library: @seat.library_id)
        write_down(
          @seat.library, @person, "seat", "#{what} “#{@seat.name}” removed.#{folder}", about: [@seat, *children]
        )
      end

      private

      def keep_plans
        @seat.children.each do |child|
          lines, keys = child.lines, child.key_of
          child.parent = @seat.parent
          child.lines = lines
          child.key_of = keys
          child.save!
        end
      end
    end
  end
end
