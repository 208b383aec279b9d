# frozen_string_literal: true

module Fobrel::Core
  RSpec.describe Tip::Page do
    # Three dark discs on shaded paper, and a fourth that is hardly there.
    def sheet(shade: 0.0)
      x = Vips::Image.xyz(600, 400)[0]
      paper = (x * (-shade / 600) + 1) * 240
      image = Vips::Image.black(600, 400)
      [[100, 100, 60], [300, 120, 40], [480, 280, 70]].each { |cx, cy, r|
        image = image.draw_circle(255, cx, cy, r, fill: true)
      }
      (paper * (image * (-0.8 / 255) + 1)).cast(:uchar).copy(interpretation: :b_w)
    end

    it "finds the drawings of a page, also where light falls off, and is kept as plain values" do
      page = described_class.read(sheet(shade: 0.3).pngsave_buffer)
      again = described_class.kept(JSON.parse(JSON.generate(page.facts)), page.screen, page.labels)
      boxes = again.marks.found.map { |mark|
        mark.box.each_with_index.map { |share, i|
          (share * (i.even? ? 600 : 400)).round
        }
      }
      expect(boxes).to eq([[40, 40, 121, 121], [260, 80, 81, 81], [410, 210, 141, 141]])
      expect([again.width, again.dark?]).to eq([600, false])
    end

    it "takes a photographed surface for one: no paper to even out, no marks to find" do
      photo = Vips::Image.gaussnoise(300, 200, mean: 120, sigma: 60, seed: 2).gaussblur(2).linear(2, -120) +
        Vips::Image.xyz(300, 200)[0] * 0.1
      page = described_class.read(photo.cast(:uchar).copy(interpretation: :b_w).pngsave_buffer)
      expect([page.surface?, page.uneven?, page.marks.found]).to eq([true, false, []])
      expect(Preset::FromTip.guess(width: 300, height: 200, surface: page.surface?).first).to eq("texture")
      expect(described_class.read(sheet(shade: 0.3).pngsave_buffer).surface?).to be(false)
    end

    it "sees what lies light on a dark page" do
      page = described_class.read(sheet.invert.pngsave_buffer)
      expect([page.dark?, page.marks.found.size]).to eq([true, 3])
    end

    it "makes one mark of a page without what others reach into its box, from the copy as from the file" do
      file = sheet(shade: 0.2).pngsave_buffer
      page = described_class.read(file)
      area = Tip::Area.of(page.marks.found[0])
      full = Tip::Maker.make(file, page:, area:, even: true, solid: true)
      shown = Tip::Maker.make(page.screen, page:, area:, even: true, solid: true, most: 20_000)
      expect([full.mark.width, full.cover.solid?, full.before[:greatest_cover] < 0.9]).to eq([122, true, true])
      expect(shown.cover.mean).to be_within(0.02).of(full.cover.mean)
      expect(full.sentence).to match(/\APaints solid: \d+ % of the mark/)
    end

    it "keeps the page's own pixels for a mark, where the page as a whole is brought down" do
      large = sheet.resize(5)
      file = large.pngsave_buffer(compression: 1)
      page = described_class.read(file)
      made = Tip::Maker.make(file, page:, area: Tip::Area.of(page.marks.found[1]))
      expect(made.mark.width).to be_within(6).of(405)
    end

    it "takes what a loose loop holds, and leaves out on request what others reach into it" do
      file = sheet.pngsave_buffer
      page = described_class.read(file)
      loop = [[0.03, 0.05], [0.5, 0.05], [0.5, 0.5], [0.03, 0.5]]
      make = ->(only) {
        Tip::Maker.make(file, page:, area: Tip::Area[{"loop" => loop, "only" => only}]).cover.values.sum
      }
      # The loop cuts the second disc in the middle: less than half of it lies in it.
      loop[1][0] = loop[2][0] = 0.49
      disc = Tip::Maker.make(file, page:, area: Tip::Area.of(page.marks.found[0])).cover.values.sum
      expect(make[true]).to be_within(disc * 0.02).of(disc)
      expect(make[false]).to be > disc * 1.15
    end

    it "cuts a mark along a line" do
      file = sheet.pngsave_buffer
      page = described_class.read(file)
      mark = page.marks.found[0]
      made = ->(*cuts) {
        Tip::Maker.make(file, page:, area: Tip::Area[Tip::Area.of(mark).words.merge("cuts" => cuts)]).cover.values.sum
      }
      halves = [1, -1].map { |side| made[[100.5 / 600, 0, 100.5 / 600, 1, side]] }
      expect(halves.sum).to be_within(20).of(made[])
      expect(halves[0]).to be_within(90).of(halves[1])
    end

    it "cuts a sheet by a grid, row by row" do
      expect(Tip::Area.grid(2, 2).map { _1.words["box"] }).to eq(
        [[0.0, 0.0, 0.5, 0.5], [0.5, 0.0, 0.5, 0.5], [0.0, 0.5, 0.5, 0.5], [0.5, 0.5, 0.5, 0.5]]
      )
    end

    # A text lent to libvips was taken for an earlier one of the same content, and freed under the picture.
    it "reads the same picture twice, whatever the collector takes meanwhile" do
      file = Vips::Image.gaussnoise(1500, 1500, mean: 128, sigma: 40).cast(:uchar).pngsave_buffer(compression: 1)
      sums = Array.new(3) { Tip::Picture.read(file.dup).then { |picture| [picture.luma.sum, GC.start] } }
      expect(sums.uniq.size).to eq(1)
    end

    describe "what cannot be a page" do
      def refused(bytes, sentence)
        began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        expect { described_class.pictures(bytes, name: "It").each { described_class.read(_1, name: "It") } }
          .to raise_error(Problem, sentence)
        expect(Process.clock_gettime(Process::CLOCK_MONOTONIC) - began).to be < 10 # seconds; no end is the failure
      end

      svg = ->(inside) {
        %(<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40">#{inside}</svg>)
      }

      it "is a drawing of copies of copies, 10⁸ in all, refused before anything is drawn" do
        nested = (0..8).map { |i|
          %(<g id="a#{i}">#{i.zero? ? "<rect/>" : %(<use href="#a#{i - 1}"/>) * 10}</g>)
        }
        began = Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID)
        refused(svg["<defs>#{nested.join}</defs><use href='#a8'/>"], /draws more than 50000 elements/)
        expect(Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID) - began).to be < 2
        refused(svg["<g id='a'><use href='#a'/></g>"], /draws more than/)
      end

      it "is a drawing with entities that expand" do
        entities = %(<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]>)
        refused(entities + svg["<text>&b;</text>"], /not a plain SVG/)
      end

      it "is not a TIFF whose directories form a loop: it has one page" do
        image = Vips::Image.black(4, 4).tiffsave_buffer.b
        start = image[4, 4].unpack1("V")
        count = image[start, 2].unpack1("v")
        image[start + 2 + 12 * count, 4] = [start].pack("V")
        expect(described_class.pictures(image).size).to eq(1)
      end

      it "is one of 5,000 frames" do
        frame = Vips::Image.black(2, 2)
        gif = Vips::Image.arrayjoin([frame] * 5000, across: 1).copy
        gif = gif.mutate { |one| one.set_type!(GObject::GINT_TYPE, "page-height", 2) }
        refused(gif.gifsave_buffer, /holds 5000 pictures|holds thousands of pictures.*Split it/)
      end

      it "is fully see-through, or white" do
        clear = Vips::Image.black(20, 20, bands: 4).copy(interpretation: :srgb).pngsave_buffer
        expect { Tip::Maker.make(clear) }.to raise_error(Tip::Cover::Empty)
        expect { Tip::Maker.make(clear, own: "keep") }.to raise_error(Tip::Cover::Empty)
      end
    end

    it "takes a drawing without its script, and its many uses within their limits" do
      inside = "<script>x()</script><rect width='40' height='20'/>"
      wild = %(<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40">#{inside}</svg>)
      expect(
        Vips::Image.new_from_buffer(described_class.pictures(wild).first, "").getpoint(
          900,
          500
        )
      ).to eq([0, 0, 0, 255])
      expect(Tip::Vector.cleaned(wild)).not_to include("script")
    end

    it "reads a dot, and a thread 20,000 px long is refused in words" do
      expect(described_class.read(Vips::Image.black(1, 1).pngsave_buffer).width).to eq(1)
      expect {
        described_class.read(
          Vips::Image.black(
            1,
            20_000
          ).pngsave_buffer
        )
      }.to raise_error(Tip::Picture::Unreadable, /1 × 20000/)
    end

    # Facts of the trade 1–3 (common practice, no source): black paints fully, white not at all, 50 % grey about half;
    # a loose selection is enough.
    it "lets black paint fully, half grey half and white not, out of a loose frame" do
      image = Vips::Image.black(90, 30).invert
      image = image.draw_rect([0], 5, 5, 20, 20, fill: true).draw_rect([128], 35, 5, 20, 20, fill: true)
      made = Tip::Maker.make(
        image.copy(interpretation: :b_w).pngsave_buffer,
        area: Tip::Area[{"box" => [0, 0, 0.9, 1]}],
        square: false
      )
      values = made.cover.values
      expect([values.shape, values[10, 5], values[10, 40]]).to match([[20, 50], 1, be_within(0.01).of(0.5)])
      expect(values[10, 25]).to eq(0)
    end

    # Black ink alone is black, and half of it half (common practice, no source).
    it "takes the black of four inks for black, by TIFF and JPEG" do
      ink = Vips::Image.black(90, 40).draw_rect([255], 10, 10, 20, 20, fill: true).draw_rect(
        [128],
        50,
        10,
        20,
        20,
        fill: true
      )
      none = Vips::Image.black(90, 40)
      image = none.bandjoin([none, none, ink]).cast(:uchar).copy(interpretation: :cmyk)
      [image.tiffsave_buffer, image.jpegsave_buffer(Q: 100)].each do |file|
        cover = Tip::Maker.make(file, crop: false).cover.values
        expect([cover[20, 20], cover[20, 60], cover[35, 80]]).to match([be > 0.99, be_within(0.02).of(0.5), be < 0.01])
      end
    end

    # Fact 10 (common practice, no source): one layer is one frame; the frame count equals the layer count.
    it "takes as many pictures as a file has pages" do
      pages = Array.new(3) { |i| Vips::Image.black(8, 8) + 60 * i }
      tall = Vips::Image.arrayjoin(pages, across: 1).cast(:uchar).copy(interpretation: :b_w)
      tall = tall.mutate { |one| one.set_type!(GObject::GINT_TYPE, "page-height", 8) }
      expect(described_class.pictures(tall.tiffsave_buffer).size).to eq(3)
    end
  end
end
