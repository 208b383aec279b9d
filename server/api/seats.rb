# frozen_string_literal: true

module Fobrel
  module Api
    # Workplaces: what they load at start.
    module Seats
      extend Sinatra::Extension

      get "/api/libraries/:library/seats" do
        answer({seats: library.seats.order(:name).map { |seat| Views.seat(seat) }})
      end

      post "/api/libraries/:library/seats" do
        name = Core::Names.clean(json["name"])
        answer(Views.seat(library.seats.create!(name:, folder: Models::Seat.free_folder(library, name))), 201)
      end

      put "/api/seats/:id/plan" do
        seat = of_library(Models::Seat)
        Actions::PlanStart.call(seat:, person:, ids: json["preset_ids"])
        answer(Views.seat(seat.reload))
      end

      post "/api/seats/:id/hand-out" do
        answer(Views.seat(Actions::HandOut.call(seat: of_library(Models::Seat), person:)))
      end

      post "/api/seats/:id/restart" do
        answer(Views.seat(Actions::RestartSeat.call(seat: of_library(Models::Seat))))
      end
    end
  end
end
