# frozen_string_literal: true

require "support/api"

# What is done to so many brushes that nobody would wait for it: the same, as long work.
RSpec.describe "changing very many at once", :api do
  before do
    sign_in("maren")
    allow(Fobrel::Actions::ForMany).to receive(:long?).and_return(true)
  end

  let(:library) { "/api/libraries/#{@first.id}" }
  let(:ids) { @first.presets.in_order.ids }

  # @return [Hash] the task in the end, told by its own address
  def begun(verb, path, said)
    task = call(verb, path, said).fetch("begun")
    expect(status).to eq(202)
    call(:get, "/api/tasks/#{task["id"]}")
  end

  def state
    @first.presets.reload.in_order.map { |one|
      [one.name, one.hidden_at.nil?, one.category_id, one.status_id, one.tag_ids.sort, one.altered]
    }
  end

  it "does each, answers in the end what it would have answered at once, and takes it back the same way" do
    place = @first.categories.create!(name: "Later").id
    {
      [:post, "taggings"] => {tag: "very many"},
      [:post, "placings"] => {kind: "category", place:},
      [:post, "renames"] => {rules: {suffix: " many"}},
      [:post, "copies"] => {},
      [:post, "hidings"] => {}
    }.each do |(verb, path), said|
      before = state
      task = begun(verb, "#{library}/#{path}", {preset_ids: ids.first(5), **said})
      expect(task.values_at("state", "message")).to eq(["done", task.dig("result", "entry", "summary")])
      expect(state).not_to eq(before)
      entry = task["result"]["entry"]
      expect(
        call(:get, "#{library}/history")["entries"].first.slice(
          "id",
          "summary"
        )
      ).to eq(entry.slice("id", "summary"))
      back = begun(:post, "/api/history/#{entry["id"]}/undo", {})
      expect([back["state"], back["result"], state]).to eq(["done", {"kept" => []}, before])
    end
  end

  it "says in the end what stood in the way, and has changed nothing" do
    before = state
    task = begun(:post, "#{library}/renames", {preset_ids: ids.first(3), rules: {suffix: "x" * 250}})
    expect(task.values_at("state", "result")).to eq(["failed", nil])
    expect(task["message"]).to match(/cannot be a new name.*Nothing was renamed/)
    expect(state).to eq(before)
    call(:post, "/api/history/999999999/undo", {})
    expect(status).to eq(404)
  end

  it "tells of it whoever asked for it, and nobody else" do
    task = begun(:post, "#{library}/hidings", {preset_ids: ids.first(2)})
    sign_in("tove")
    call(:get, "/api/tasks/#{task["id"]}")
    expect(status).to eq(404)
  end

  it "is done at once where it is soon done" do
    RSpec::Mocks.space.proxy_for(Fobrel::Actions::ForMany).reset
    expect(call(:post, "#{library}/hidings", {preset_ids: ids.first(2)})["entry"]["summary"]).to match(/2 brushes/)
    limit = Fobrel::Actions::ForMany::KINDS.transform_values { |kind|
      (1..100_000).bsearch { |count| Fobrel::Actions::ForMany.long?(kind.each, count) }
    }
    expect(limit.values).to all(be_between(500, 10_000))
  end
end
