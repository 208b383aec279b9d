# frozen_string_literal: true

module Fobrel
  module Actions
    # Writes a seat's start plan into its startup folder, in one step.
    class HandOut < Deed
      def initialize(seat:, person:)
        @seat = seat
        @person = person
      end

      # @return [Models::Seat]
      def call
        @seat.lock!
        presets = @seat.items.order(:position).includes(preset: :current_edition).map {
          _1.preset.current_edition.value
        }
        if presets.empty?
          raise Core::Problem,
            "The start plan of #{@seat.name} is empty. Nothing was handed out. Add brushes to it first."
        end
        @seat.update!(handed_out_at: Time.current, handed_out: @seat.planned)
        write_down(@seat.library, @person, "hand out", "#{presets.size} brushes handed out to #{@seat.name}")
        Core::Startup::Plan.new(presets, Models::Asset.files(presets.flat_map(&:needs))).hand_out(@seat.path)
        @seat
      end
    end
  end
end
