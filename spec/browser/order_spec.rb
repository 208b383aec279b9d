# frozen_string_literal: true

require "support/browser"

RSpec.describe "orders made by hand", :browser do
  let(:presets) { @first.presets.in_order.first(4) }

  # Drags a row down by its handle until it stands at the place wanted, then lets go: as a hand
  # does that watches the rows make room.
  def drag_down(from, to)
    name = names[from]
    x, y = all("ol li")[from].find(".grip").evaluate_script(
      "(r => [r.x + r.width / 2, r.y + r.height / 2])(this.getBoundingClientRect())"
    )
    mouse = page.driver.browser.mouse
    mouse.move(x:, y:).down
    60.times do
      break if names.index(name) == to
      mouse.move(x:, y: y += 5)
      sleep 0.08
    end
    mouse.up
  end

  def names = all("ol li b").map(&:text)

  before do
    @set = @first.brush_sets.create!(name: "Kit").tap { _1.put_in_order(presets.map(&:id)) }
    sign_in("maren")
  end

  it "are dragged, moved with the arrows, taken out, kept, and undone" do
    go "Sets"
    expect(page).to have_css("ol li", count: 4)
    drag_down(0, 2)
    expect(page).to have_content("New order in “Kit”")
    dragged = presets.map(&:name).values_at(1, 2, 0, 3)
    expect(names).to eq(dragged)
    click_button "Move #{dragged[3]} up"
    expect(page).to have_css("ol li:nth-child(3)", text: dragged[3])
    click_button "Remove #{dragged[0]}"
    expect(page).to have_css("ol li", count: 3)
    expect(page).to have_content("1 taken out of “Kit”")
    visit "/sets"
    expect(page).to have_css("ol li b", text: /\w/, count: 3)
    expect(names).to eq(dragged.values_at(1, 3, 2))
    go "History"
    within("tr", text: "1 taken out of") { click_button "Undo" }
    expect(page).to have_content("Undone.")
    expect(@set.preset_ids_in_order.size).to eq(4)
  end

  it "are told when somebody else was faster" do
    announce(/answer: 409 PUT/)
    go "Sets"
    expect(page).to have_css("ol li", count: 4)
    @set.put_in_order(presets.reverse.map(&:id))
    click_button "Move #{presets[1].name} up"
    expect(page).to have_css("[role=alert]", text: "changed “Kit” meanwhile")
    expect(page).to have_css("ol li:first-child", text: presets[3].name)
  end
end
