# frozen_string_literal: true

RSpec.describe Fobrel::Core::Stroke::Smoothing do
  def samples(rows) = S::Samples.from_list(rows.map { |x, y, t| {"x" => x, "y" => y, "t" => t} })

  # Outside reference: the filter as its authors publish it, written anew in Python; one_euro_values.py.
  JSON.parse(File.read(File.join(__dir__, "one_euro_values.json"))).each_with_index do |one, index|
    it "follows the One-Euro filter, movement #{index} at a strength of #{one["strength"]}" do
      steady = described_class.smooth(samples(one["rows"]), one["strength"])
      # The pen ends where it ended, so the last stands once more.
      one["x"].zip(one["y"], steady.x, steady.y).each do |x, y, mine_x, mine_y|
        expect([mine_x, mine_y]).to match([be_within(1e-9).of(x), be_within(1e-9).of(y)])
      end
      expect([steady.x.last, steady.y.last]).to eq(one["rows"].last.first(2))
    end
  end

  it "lags less the faster the pen goes" do
    lag = ->(pace) {
      rows = Array.new(40) { |i| [i * pace, 0, i * 8] }
      (rows[30][0] - described_class.smooth(samples(rows), 0.9).x[30]) / pace
    }
    expect(lag[30.0]).to be < lag[1.0] / 2
  end

  it "gives nothing but the samples back where there is nothing to steady" do
    two = samples([[0, 0, 0], [5, 5, 8]])
    expect(described_class.smooth(two, 1)).to equal(two)
    many = samples([[0, 0, 0], [5, 5, 8], [9, 1, 16]])
    expect(described_class.smooth(many, 0)).to equal(many)
    expect(described_class.smooth(many, 0.5).size).to eq(4)
  end

  it "takes the usual rate where time stands still" do
    still = Array.new(9) { |i| [i * 7 % 5, i, 0] }
    even = still.each_with_index.map { |(x, y, _), i| [x, y, i * S::Samples::STEP_MS] }
    places = ->(rows) { described_class.smooth(samples(rows), 0.6).columns.slice(:x, :y) }
    expect(places[still]).to eq(places[even])
  end
end
