# frozen_string_literal: true

require "support/studio"

# What is told beforehand of the demo's desks, against what the stand-in then measured on each. Time is held against
# the clock in bench/desks.rb; core/spec/startup says how it is learned.
RSpec.describe "the demo's desks" do
  # Common practice, no source: a lead decides by a meter that is right within a quarter for memory.
  it "take the memory the meter said, within a quarter, and learn from each start" do
    Studio.clear
    Fobrel::Demo::Studio.build(paint: false)
    desks = Studio::M::Desk.workplaces.where(away: false).order(:id).to_a
    expect(desks.size).to be >= 3
    desks.each do |desk|
      desk.lines = desk.handed.lines.map { |one| Fobrel::Core::Startup::Layers::Line.from(one) }
      told = Fobrel::Finding::StartupPlan.new(desk).load
      before = desk.starts.size
      Fobrel::Actions::RestartDesk.call(desk:)
      measured = desk.starts.last
      expect(desk.starts.size).to eq([before + 1, Studio::M::Desk::STARTS].min)
      expect(told[:memory]).to be_within(measured["memory"] * 0.25).of(measured["memory"]), desk.name
      expect(measured["usual"]).to be_within(1).of(told[:usual]), desk.name
    end
  end
end
