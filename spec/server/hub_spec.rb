# frozen_string_literal: true

require "support/studio"

RSpec.describe Fobrel::Hub do
  let(:hub) { described_class.new }

  # The page's end of a line of person 7 in library 3.
  def listening
    near, far = UNIXSocket.pair
    Thread.new { hub.listen(far, person_id: 7, library_id: 3) }
    near
  end

  it "answers a page only once it hears the database, so that no event is lost in between" do
    gate = Thread::Queue.new
    allow(PG).to receive(:connect).and_wrap_original { |connect, *given| gate.pop && connect.call(*given) }
    page = listening
    expect(page.wait_readable(0.2)).to be_nil
    gate << true
    expect(page.wait_readable(10) && page.readpartial(4096)).to include("text/event-stream")
    Studio::M::Live.tell(what: "brushes", library: 3)
    expect(page.wait_readable(10) && page.readpartial(4096)).to include('"what":"brushes"')
    Studio::M::Live.tell(what: Studio::M::Live::ACCESS, people: [7])
    expect(page.wait_readable(10) && page.read_nonblock(1, exception: false)).to be_nil
  end

  it "lets a page come anew that was taken while the database could not be heard" do
    stub_const("Fobrel::Hub::HEARD", 0.1)
    gate = Thread::Queue.new
    allow(PG).to receive(:connect).and_wrap_original { |connect, *given| gate.pop && connect.call(*given) }
    page = listening
    expect(page.wait_readable(10) && page.readpartial(4096)).to include("text/event-stream")
    expect(hub.size).to eq(1)
    gate << true
    expect(page.wait_readable(10) && page.read_nonblock(1, exception: false)).to be_nil
    expect(hub.size).to eq(0)
  end
end
