# frozen_string_literal: true

require "support/studio"

# What is told beforehand of the demo's seats, against what the stand-in then measured on each.
RSpec.describe "the demo's seats" do
  # Common practice, no source: a lead decides by a meter that is right within a quarter for memory, and within a factor
  # of two for time once a seat was started three times.
  it "cost what the meter said: memory within a quarter, time within a factor of two after three starts" do
    Studio.clear
    Fobrel::Demo::Studio.build
    seats = Studio::M::Seat.workplaces.where(away: false).order(:id).to_a
    expect(seats.size).to be >= 3
    seats.each do |seat|
      seat.lines = seat.handed.lines.map { |one| Fobrel::Core::Startup::Layers::Line.from(one) }
      3.times { Fobrel::Actions::RestartSeat.call(seat:) }
      told = Fobrel::Finding::StartPlan.new(seat).load
      Fobrel::Actions::RestartSeat.call(seat:)
      measured = seat.starts.last
      expect(told[:memory]).to be_within(measured["memory"] * 0.25).of(measured["memory"]), seat.name
      expect(told[:ms]).to be_between(measured["ms"] / 2, measured["ms"] * 2), seat.name
    end
  end
end
