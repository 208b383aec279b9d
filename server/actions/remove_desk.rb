# frozen_string_literal: true

module Fobrel
  module Actions
    # Removes a desk or a template for good. What lies in a desk's folder stays there; what began from a template keeps
    # its plan as it is.
    class RemoveDesk < Deed
      # @param desk [Models::Desk]
      def initialize(desk:, person:)
        @desk = desk
        @person = person
      end

      # @return [Models::HistoryEntry]
      # @raise [Core::Problem] where the desk is in use
      def call
        @desk.library.hold
        @desk.lock!
        if !@desk.template && @desk.put_aside_at.nil? && @desk.plans.any?
          raise Core::Problem, "#{@desk.name} is in use. Nothing was removed. Take the desk out of use first."
        end
        children = @desk.children.to_a
        keep_plans
        Models::AccessToken.where(desk: @desk).delete_all
        folder = " Its folder var/desks/#{@desk.folder} stays as it is." unless @desk.template || @desk.plans.none?
        what = @desk.template ? "The template" : "The desk"
        @desk.destroy!
        Models::Live.tell(what: "library", library: @desk.library_id)
        write_down(
          @desk.library, @person, "desk", "#{what} “#{@desk.name}” removed.#{folder}", about: [@desk, *children]
        )
      end

      private

      def keep_plans
        @desk.children.each do |child|
          lines, keys = child.lines, child.key_of
          child.parent = @desk.parent
          child.lines = lines
          child.key_of = keys
          child.save!
        end
      end
    end
  end
end
