# frozen_string_literal: true

require "support/browser"

RSpec.describe "the search field", :browser do
  # Name, size in px, category, hardness.
  brushes = [
    ["Dry sail", 48, "Dry marks", 1],
    ["Driftwood charcoal", 40, "Dry marks", 1],
    ["Salt crayon", 42, "Dry marks", 1],
    ["Hawser", 30, "Ropes and ribbons", 1],
    ["Mooring rope", 26, "Ropes and ribbons", 1],
    ["Soft wash", 90, "Washes", 1],
    ["Fog bank wash", 120, "Washes", 0.1],
    ["Pencil, 2B", 4, "Lines", 1],
    ["Blue pencil", 6, "Lines", 1],
    ["Water colour drift", 46, "Washes", 1]
  ]

  before do
    maren = Studio::M::Person.find_by!(login: "maren")
    categories = brushes.map { _1[2] }.uniq.to_h { |name| [name, @first.categories.create!(name:)] }
    brushes.each do |name, size, category, hardness|
      value = Fobrel::Core::Preset::Preset.build(
        name, {"tip" => {"form" => {"kind" => "round", "hardness" => hardness}, "size" => {"base" => size}}}
      )
      Fobrel::Actions::CreatePreset.call(library: @first, value:, person: maren).update!(category: categories[category])
    end
    sign_in("maren")
  end

  def search(line)
    find("body").send_keys("/") unless page.has_css?("input[type=search]:focus", wait: 0)
    find("input[type=search]").set("")
    page.driver.browser.keyboard.type(line)
  end

  def found = all("[data-test=search-panel] .found b").map(&:text)

  # What a line is typed for, at least; it may find more.
  {
    "dry brush" => ["Dry sail", "Driftwood charcoal", "Salt crayon"],
    "dry 40" => ["Dry sail", "Driftwood charcoal", "Salt crayon"],
    "ropes" => ["Mooring rope", "Hawser"],
    "soft wash" => ["Soft wash", "Fog bank wash"],
    "about 40" => ["Driftwood charcoal", "Salt crayon", "Dry sail", "Water colour drift"],
    "pencil" => ["Blue pencil", "Pencil, 2B"],
    "water color" => ["Water colour drift"]
  }.each do |line, names|
    it "shows for “#{line}” at least #{names.join(", ")}" do
      search(line)
      expect(page).to have_css(".found", minimum: names.size)
      expect(found).to include(*names)
      expect(page).to have_css("[role=option]", text: (found.size == 1) ? "Show it in the list" : /All \d+ results/)
    end
  end

  it "opens by keys what was walked to, or the first, from any view" do
    go "Sets"
    search("dry")
    expect(page).to have_css(".found", minimum: 3)
    wanted = found[1]
    page.driver.browser.keyboard.type(:down, :down, :enter)
    expect(page).to have_css(".bench h1", text: wanted)
    expect(page).to have_no_css("[data-test=search-panel]")
    # Typed faster than the answers come.
    Late.answers(longest: 0.6, seed: 3) do
      find("body").send_keys("/")
      page.driver.browser.keyboard.type([:control, "a"], "hawser", :enter)
      expect(page).to have_css(".bench h1", text: "Hawser")
    end
    page.go_back
    expect(page).to have_css(".bench h1", text: wanted)
  end

  it "leaves a view only for what was chosen, and all results by a click or the last step" do
    go "Sets"
    search("dry")
    expect(page).to have_css(".found", minimum: 3)
    expect(page).to have_current_path("/#{@first.id}/sets", ignore_query: true)
    page.driver.browser.keyboard.type(:escape)
    expect(page).to have_no_css("[data-test=search-panel]")
    search("dry")
    find(".all[role=option]", text: /All \d+ results/).click
    expect(page).to have_css(".row", minimum: 3)
    expect(page.current_url).to include("/brushes?search=dry")
  end

  it "narrows by a chip, whose count is what its line finds" do
    go "Sets"
    search("dry 40")
    chip = find(".chips button", text: "Category Dry marks")
    count = chip.text[/\d+/].to_i
    chip.click
    expect(page).to have_css(".row", count:)
    expect(find_field("Find a brush").value).to eq("40; category: Dry marks")
  end

  it "proposes what a term’s value may have meant" do
    @first.tags.find_or_create_by!(name: "sea")
    search("tag: see")
    find("[role=option]", text: "tag: sea").click
    expect(find_field("Find a brush").value).to eq("tag: sea")
  end
end
