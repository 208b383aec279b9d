# frozen_string_literal: true

require "support/command"

RSpec.describe Fobrel::TipCommands, :command do
  # Not by its name: the library remembers files by name, and these come and go.
  def read(file) = Vips::Image.new_from_buffer(File.binread(file), "")

  # A sheet of three marks on paper that is lit from one side.
  def sheet(file)
    light = Vips::Image.xyz(300, 200)[0] * (-60.0 / 300) + 245
    ink = Vips::Image.black(300, 200).draw_rect(255, 20, 20, 50, 60, fill: true)
    ink = ink.draw_circle(255, 200, 60, 30, fill: true).draw_rect(255, 90, 120, 80, 40, fill: true)
    (light * (ink * (-0.7 / 255) + 1)).cast(:uchar).copy(interpretation: :b_w).write_to_file(file)
  end

  it "evens out a page, makes a mark solid, and says what it was before" do
    sheet("page.png")
    out, = fobrel("tip", "page.png", "-o", "t.png", "--even", "--solid", "--feather", "0.1", "--specks", "9", "--json")
    figures = JSON.parse(out)
    expect(figures.values_at("greatest_cover", "solid")).to eq([1.0, true])
    expect(figures["before"]["greatest_cover"]).to be_between(0.6, 0.8)
    _, err, status = fobrel("tip", "page.png", "-o", "t.png", "--black", "200", "--white", "100")
    expect([status, err]).to match([2, /--white must lie above --black/])
  end

  it "writes each mark of a page in reading order, with its box in pixels, or each cell of a grid" do
    sheet("page.png")
    out, = fobrel("tip", "page.png", "--marks", "-o", "marks", "--json")
    marks = JSON.parse(out)["marks"]
    expect(marks.map { _1.values_at("x", "y", "width", "height") })
      .to eq([[20, 20, 50, 60], [170, 30, 61, 61], [90, 120, 80, 40]])
    expect(marks.map { read(_1["file"]).width }).to eq([60, 62, 80])
    cells = JSON.parse(fobrel("tip", "page.png", "--grid", "1x3", "-o", "cells", "--json").first)["marks"]
    expect(cells.map { _1["x"] }).to eq([0, 100, 200])
  end

  it "writes words, shapes and grains" do
    signature = JSON.parse(fobrel("tip", "--text", "© Skerrow", "--weight", "700", "-o", "s.png", "--json").first)
    expect([signature["solid"], signature["width"] > 400]).to eq([true, true])
    fobrel("tip", "--figure", "star", "--points", "7", "-o", "star.svg")
    expect(File.read("star.svg")).to include("<path").and include("points&quot;:7")
    sheet("page.png")
    grain = JSON.parse(fobrel("tip", "page.png", "--grain", "-o", "g.png", "--json").first)
    expect([grain["seams"] <= 1.1, read("g.png").bands]).to eq([true, 1])
    _, err, status = fobrel("tip", "--figure", "star", "--corners", "3", "-o", "star.svg")
    expect([status, err]).to match([2, /star has no --corners/])
  end

  it "makes a tip of each page of a file" do
    tall = Vips::Image.black(8, 24).copy(interpretation: :b_w)
    tall.mutate { |one| one.set_type!(GObject::GINT_TYPE, "page-height", 8) }.tiffsave("three.tif")
    out, = fobrel("tip", "three.tif", "--frames", "frames", "--json")
    expect(JSON.parse(out)["frames"].map { read(_1["file"]).width }).to eq([8, 8, 8])
  end
end
