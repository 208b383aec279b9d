# frozen_string_literal: true

require "support/api"

RSpec.describe "plain exports", :api do
  before { sign_in("maren") }

  let(:path) { "/api/libraries/#{@first.id}/exports" }
  let(:ids) { @first.presets.in_order.ids }

  it "writes a kit of the picked brushes only, and says so in the history" do
    zip = call(:post, path, {kind: "kit", of: {preset_ids: ids.first(2)}})
    names = Zip::File.open_buffer(StringIO.new(zip)).map(&:name)
    expect(names).to include("settings.csv", "Bollard/strip.png", "Chart nib/tip-1.png")
    expect(names.map { _1.split("/").first }.uniq - ["settings.csv", "settings.json"]).to eq(["Bollard", "Chart nib"])
    expect(last_response.headers["content-disposition"]).to match(/storm-over-skerrow-\d{4}-\d\d-\d\d-kit\.zip/)
    expect(@first.history_entries.last.summary).to eq("Storm over Skerrow: 2 brushes as a kit, to this browser")
    expect(call(:post, path, {kind: "kit", of: {preset_ids: ids.first(2)}})).to eq(zip)
  end

  it "writes an inventory that says where each brush is used" do
    @first.brush_sets.create!(name: "Kit").put_in_order([ids[0]])
    category = @first.categories.create!(name: "Lines")
    @first.presets.find(ids[0]).update!(category:)
    table = CSV.parse(call(:post, path, {kind: "inventory", of: {preset_ids: ids}}), headers: true)
    expect(table.size).to eq(8)
    expect(
      table[0].to_h.values_at(
        "name",
        "size",
        "version",
        "category",
        "tags",
        "used_in"
      )
    ).to eq(["Bollard", "30.0", "1", "Lines", "flat, lineart", "set Kit"])
  end

  it "refuses nothing picked, another library's brushes, and kinds there are not; a guest may export" do
    expect(call(:post, path, {kind: "kit", of: {preset_ids: []}})["error"]).to match(/No brushes selected/)
    expect(
      call(
        :post,
        "/api/libraries/#{@second.id}/exports",
        {kind: "kit", of: {preset_ids: ids}}
      )["error"]
    ).to match(/no longer in this library/)
    call(:post, path, {kind: "sack", of: {preset_ids: ids}})
    expect(status).to eq(400)
    sign_in("ilse")
    expect(call(:post, path, {kind: "inventory", of: {preset_ids: ids}})).to start_with("name,size")
  end
end
