# frozen_string_literal: true

require "support/studio"

# What is told beforehand of the demo's seats, against what the stand-in then measured on each. Time is held against
# the clock in bench/seats.rb; core/spec/startup says how it is learned.
RSpec.describe "the demo's desks" do
  # Common practice, no source: a lead decides by a meter that is right within a quarter for memory.
  it "take the memory the meter said, within a quarter, and learn from each start" do
    Studio.clear
    Fobrel::Demo::Studio.build(paint: false)
    seats = Studio::M::Seat.workplaces.where(away: false).order(:id).to_a
    expect(seats.size).to be >= 3
    seats.each do |seat|
      seat.lines = seat.handed.lines.map { |one| Fobrel::Core::Startup::Layers::Line.from(one) }
      told = Fobrel::Finding::StartPlan.new(seat).load
      before = seat.starts.size
      Fobrel::Actions::RestartSeat.call(seat:)
      measured = seat.starts.last
      expect(seat.starts.size).to eq([before + 1, Studio::M::Seat::STARTS].min)
      expect(told[:memory]).to be_within(measured["memory"] * 0.25).of(measured["memory"]), seat.name
      expect(measured["usual"]).to be_within(1).of(told[:usual]), seat.name
    end
  end
end
