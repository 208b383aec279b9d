# frozen_string_literal: true

require "support/browser"

# Every way of making a mark, by mouse, each within eight clicks from the opened picture.
RSpec.describe "the tip maker", :browser do
  before { @clicks = 0 }

  def press(name, **how)
    @clicks += 1
    click_button(name, **how)
  end

  def bring(name, image)
    path = File.join(files, name)
    image.is_a?(String) ? File.binwrite(path, image) : image.write_to_file(path)
    go "Tip maker"
    attach_file "Choose a picture", path, make_visible: true
    expect(page).to have_css("[data-test=tip]")
  end

  def settled = expect(page).to have_no_css("[data-behind=true]")

  def made(sentence)
    expect(page).to have_content(sentence)
    expect(@clicks).to be <= 8
  end

  def tip_of(name) = Studio::M::Preset.find_by!(name:).current_version.document["tip"]["form"]

  # Five leaves on paper that is lit from one side.
  def leaves
    shapes = Array.new(5) do |i|
      {"shape" => "leaf", "size" => 0.22, "x" => -0.6 + (i % 3) * 0.6, "y" => (i / 3) * 0.8 - 0.4, "turn" => i * 20}
    end
    cover = Fobrel::Core::Tip::Figure[shapes].cover
    light = Numo::SFloat.new(1000).seq * (-0.25 / 1000) + 0.95
    tones = Numo::UInt8.cast(((1 - cover * 0.8) * light * 255).round)
    Vips::Image.new_from_memory_copy(tones.to_binary, 1000, 1000, 1, :uchar).copy(interpretation: :b_w)
  end

  it "makes a sheet of five leaves three tips, then one reel of five; a reload and a step back lose nothing" do
    sign_in("maren")
    bring("leaves.png", leaves)
    [1, 2, 5].each { |number| press "Mark #{number} on the page" }
    press "Make solid"
    settled
    expect(page).to have_content("Paints solid")
    press "3 brushes"
    press "Save 3 brushes"
    made "3 brushes were made: “Leaves” to “Leaves 3”"
    expect(Studio::M::Preset.where("name LIKE 'Leaves%'").count).to eq(3)

    @clicks = 0
    refresh
    expect(page).to have_css("[aria-label='Frame 3']")
    press "Select all"
    press "a brush with a reel of 5"
    settled
    press "Undo"
    expect(page).to have_no_css("[aria-label='Frame 5']")
    press "Redo"
    expect(page).to have_css("[aria-label='Frame 5']")
    fill_in "Name", with: "Leaf fall"
    press "Save brush"
    expect(page).to have_css("h1", text: "Leaf fall")
    expect([tip_of("Leaf fall")["frames"].size, @clicks <= 8]).to eq([5, true])
  end

  it "makes a photographed texture a texture brush and its twin" do
    sign_in("maren")
    grain = Vips::Image.gaussnoise(500, 400, mean: 128, sigma: 60, seed: 3).gaussblur(3).linear(2.2, -150).cast(:uchar)
    bring("wet_slate.png", grain.copy(interpretation: :b_w))
    settled
    press "As texture" if has_button?("As texture", wait: 2)
    press "texture" unless has_css?("[aria-label='As texture'][aria-pressed=true]", wait: 2)
    @clicks += 1
    find("label", text: "Also an inverted copy").click
    press "Save brush"
    made "2 brushes were made: “Wet slate”"
    settings = Studio::M::Preset.find_by!(name: "Wet slate").current_version.value
    expect([settings["paint", "flow"], settings["tip", "size", "base"] > 150]).to eq([0.7, true])
    expect(tip_of("Wet slate")).not_to eq(tip_of("Wet slate 2"))
  end

  it "makes a signature a stamp in white, at 100 % and at 30 %" do
    sign_in("maren")
    go "Tip maker"
    fill_in "Text to draw", with: "© Skerrow"
    press "Write"
    expect(page).to have_css("[data-test=tip]")
    press "Bold"
    settled
    press "in white"
    fill_in "Name", with: "Signature"
    press "Save brush"
    expect(page).to have_content("“Signature” is a brush now")
    expect(page).to have_field("Name", with: "Signature 2")
    press "At 30 %"
    press "Save brush"
    made "“Signature 2” is a brush now"
    pigments = ["Signature", "Signature 2"].map { |name|
      Studio::M::Preset.find_by!(name:).current_version.value["paint"]
    }
    expect(pigments.map { _1["colour"]["value"] }).to eq(["#ffffff"] * 2)
    expect(pigments.map { _1["opacity"] }).to eq([1, 0.3])
  end

  it "makes a star with a hole a part, and three tapers a numbered row" do
    sign_in("maren")
    go "Tip maker"
    press "star"
    expect(page).to have_css("[data-test=tip]")
    press "+ Add shape"
    select "polygon", from: "Shape"
    @clicks += 1
    settled
    press "a part"
    fill_in "Name", with: "Holed star"
    press "Save tip"
    made "saved under Tips and grains"
    part = Studio::M::Part.find_by!(name: "Holed star")
    expect([part.ext, part.made["figure"].map { _1["cut"] }]).to eq(["svg", [nil, true]])

    @clicks = 0
    press "In progress"
    press "taper"
    expect(page).to have_css("[data-test=tip]")
    press "Three variants"
    expect(page).to have_css("[aria-label='Frame 3']")
    press "3 brushes"
    fill_in "Name", with: "Taper"
    press "Save 3 brushes"
    made "3 brushes were made: “Taper” to “Taper 3”"
    expect(Studio::M::Preset.find_by!(name: "Taper 2").current_version.document["method"]).to eq("ribbon")
  end

  it "makes what was painted on the pad a brush" do
    sign_in("maren")
    row("Quay line").double_click
    expect(page).to have_css("[data-part=pad] canvas")
    click_button "Paint the sample stroke"
    expect(page).to have_css("[data-test=painted]")
    press "Use as tip"
    expect(page).to have_css("[data-test=tip]")
    fill_in "Name", with: "Painted line"
    press "Save brush"
    made "“Painted line” is a brush now"
    expect(tip_of("Painted line")["frames"].size).to eq(1)
  end

  it "lets what was painted, a square of a picture or a symbol stand for a brush beside its strip" do
    sign_in("maren")
    bench("Quay line")
    click_button "Paint the sample stroke"
    expect(page).to have_css("[data-test=painted]")
    click_button "Use as preview"
    square = find("[role=group].frame")
    2.times { square.send_keys("-") }
    square.send_keys(:right)
    click_button "Use picture"
    kept = -> {
      Studio::M::Draft.joins(:preset).find_by(presets: {name: "Quay line"})&.document&.dig("about", "picture")
    }
    expect(page).to have_css("[role=status]", text: "kept")
    painted = kept.call
    expect(painted).to match(/\Asha256:\h{64}\z/)
    from_menu("More", "About this brush…")
    click_button "Change…"
    find("[aria-label='Foliage']").click
    click_button "Use picture"
    expect(page).to have_no_css("[role=group][aria-label=Symbols]")
    expect(page).to have_css("img[alt='Preview picture']")
    click_button "Close"
    expect(page).to have_css("[role=status]", text: "kept")
    expect(kept.call).not_to eq(painted)
    save_version 2
    go "Brushes"
    click_button "Show"
    find("label", text: "pictures beside the strips").click
    expect(page).to have_css("img[alt='Picture of Quay line']", count: 1)
    page.refresh
    row("Quay line").click
    expect(page).to have_css(".peek img[alt='Picture of Quay line']")
  end

  it "keeps red, green and blue layers red, green and blue" do
    sign_in("maren")
    tall = Vips::Image.arrayjoin(
      [[255, 0, 0], [0, 255, 0], [0, 0, 255]].map { |colour|
        Vips::Image.black(40, 40).new_from_image(colour + [255]).cast(:uchar).copy(interpretation: :srgb)
          .embed(20, 20, 80, 80, extend: :background, background: [0, 0, 0, 0])
      },
      across: 1
    )
    bring("lanterns.tif", tall.mutate { |one| one.set_type!(GObject::GINT_TYPE, "page-height", 80) }.tiffsave_buffer)
    expect(page).to have_css("[aria-label='Frame 3'] img")
    settled
    shown = (1..3).map { |number|
      evaluate_script(<<~JS)
        (() => { const i = document.querySelector("[aria-label='Frame #{number}'] img"), c = document.createElement("canvas");
        c.width = c.height = 9; const x = c.getContext("2d"); x.drawImage(i, 0, 0, 9, 9);
        return [...x.getImageData(4, 4, 1, 1).data].slice(0, 3) })()
      JS
    }
    expect(shown).to eq([[255, 0, 0], [0, 255, 0], [0, 0, 255]])
    press "Save brush"
    expect(page).to have_css(".bench h1", text: "Lanterns")
    expect(@clicks).to be <= 8
    colours = tip_of("Lanterns")["frames"].map { |sum|
      Vips::Image.new_from_buffer(Studio::M::Asset::Bytes.fetch(sum) { nil }, "").getpoint(20, 20).first(3)
    }
    expect([tip_of("Lanterns")["colours"], colours]).to eq(["own", [[255, 0, 0], [0, 255, 0], [0, 0, 255]]])
  end

  it "is worked with the keys alone: a frame and a loop on the page, and the order of a reel" do
    keys = page.driver.browser.keyboard
    sign_in("maren")
    bring("leaves.png", leaves)
    press "Frame"
    go_there = lambda do |*ways|
      execute_script("document.querySelector('[data-part=page]').focus()")
      ways.each { |way, count| count.times { keys.type(way) } }
      keys.type(:enter)
    end
    go_there[[:left, 47], [:up, 40]]
    go_there[[:right, 37], [:down, 35]]
    expect(page).to have_css("[aria-label='Frame 1']")
    press "Loop"
    go_there[[:left, 10], [:up, 5]]
    go_there[[:up, 40]]
    go_there[[:left, 38], [:down, 15]]
    go_there[]
    expect(page).to have_css("[aria-label='Frame 2']")
    pictures = lambda do
      settled
      all("[aria-label^='Frame '] img", count: 2).map { _1[:src] }
    end
    before = pictures[]
    expect(before.uniq.size).to eq(2)
    find("[aria-label='Frame 1']").send_keys(%i[alt right])
    expect(page).to have_css("[aria-label='Frame 2']:focus")
    expect(pictures[]).to eq(before.reverse)
    click_button "Move frame left"
    expect(pictures[]).to eq(before)
  end

  it "cuts out by a loose loop, joins, takes apart, and goes on in another window" do
    sign_in("maren")
    bring("leaves.png", leaves)
    press "Loop"
    drag_on("[data-part=page] img", [[0.03, 0.1], [0.35, 0.05], [0.4, 0.45], [0.1, 0.48], [0.02, 0.2]])
    expect(page).to have_css("[aria-label='Frame 1']")
    press "Marks found (5)"
    press "None"
    press "Mark 1 on the page"
    press "Mark 2 on the page"
    press "Join"
    expect(page).to have_button("Marks found (4)")
    settled
    address = current_url
    other = open_new_window
    within_window(other) do
      visit address
      expect(page).to have_button("Marks found (4)")
      click_button "Invert"
      settled
    end
    announce(/answer: 409 PUT/)
    click_button "Hard pixels"
    expect(page).to have_content("changed in another window")
    expect(page).to have_css("button[aria-pressed=true]", text: "Invert")
    other.close
  end

  it "exchanges a part in four brushes, undone" do
    tip = {"kind" => "picture", "frames" => [kept_disc(9)]}
    made = Array.new(4) { |i| brush("Twig #{i + 1}", tip) }
    @first.parts.create!(name: "Fresh", kind: "tip", sha256: Fobrel::Core::Sum.in(kept_disc(24)))
    sign_in("maren")
    go "Tips and grains"
    fill_in "Find a tip or grain", with: "Twig"
    find("[data-sum='#{Fobrel::Core::Sum.in(tip["frames"].first)}']").click
    expect(page).to have_content("Used in 4 brushes")
    press "Replace…"
    fill_in "Find the other part", with: "Fresh"
    press "Use Fresh"
    press "Replace in 4 brushes"
    made "A part exchanged in 4 brushes, as drafts"
    expect(Studio::M::Draft.where(preset: made).count).to eq(4)
    click_button "Undo"
    expect(page).to have_content(/undone|taken back/i)
    50.times { Studio::M::Draft.where(preset: made).none? ? break : sleep(0.1) }
    expect(Studio::M::Draft.where(preset: made).count).to eq(0)
  end

  def kept_disc(radius)
    image = Vips::Image.black(60, 60).invert.draw_circle([0], 30, 30, radius, fill: true).copy(interpretation: :b_w)
    Fobrel::Core::Sum.reference(Studio::M::Asset.keep(image.pngsave_buffer, "png"))
  end

  def brush(name, tip)
    value = Fobrel::Core::Preset::FromTip.build(name, tip, kind: "stamp")
    person = Studio::M::Person.find_by!(login: "maren")
    Fobrel::Actions::CreatePreset.call(library: @first, value:, person:)
  end

  # A way drawn with the mouse over an element, in shares of it.
  def drag_on(selector, points)
    box = evaluate_script(
      "(() => { const b = document.querySelector(#{selector.to_json}).getBoundingClientRect();" \
        "return [b.left, b.top, b.width, b.height] })()"
    )
    at = points.map { |x, y| [box[0] + x * box[2], box[1] + y * box[3]] }
    mouse = page.driver.browser.mouse
    mouse.move(x: at[0][0], y: at[0][1]).down
    at.drop(1).each { |x, y| mouse.move(x:, y:, steps: 6) }
    mouse.up
  end
end
