# frozen_string_literal: true

module Fobrel
  module Api
    # Workplaces: what they load at start.
    class Seats < Base
      get "/api/libraries/:library/seats" do
        answer({seats: library.seats.order(:name).map { Views.seat(_1) }})
      end

      post "/api/libraries/:library/seats" do
        found = library
        name = Core::Names.clean(text(json, "name"))
        answer(seat_view(found.seats.create!(name:, folder: Models::Seat.free_folder(found, name))), 201)
      end

      put "/api/seats/:id/plan" do
        found = seat
        Actions::PlanStart.call(seat: found, person:, ids: ids(json))
        answer(seat_view(found.reload))
      end

      post "/api/seats/:id/hand-out" do
        answer(seat_view(Actions::HandOut.call(seat: seat, person:)))
      end

      post "/api/seats/:id/restart" do
        answer(seat_view(Actions::RestartSeat.call(seat: seat)))
      end

      helpers do
        def seat = of_library(Models::Seat)

        def seat_view(seat) = Views.seat(seat)
      end
    end
  end
end
