# frozen_string_literal: true

require "chunky_png"

# Outside reference: PngSuite by Willem van Schaik, as the chunky_png gem ships it, and that
# gem's own decoder.
RSpec.describe Fobrel::Core::Tip::Picture do
  # Held against libvips, which does each step for itself; more rows than are summed at once.
  {8 => %i[uchar srgb], 16 => %i[ushort rgb16]}.each do |bits, (format, space)|
    it "lays a see-through picture of #{bits} bits over white as libvips does" do
      bands = [[128, 60], [90, 40], [60, 90], [150, 80]].each_with_index.map { |(mean, sigma), seed|
        Vips::Image.gaussnoise(300, 500, mean:, sigma:, seed:)
      }
      image = (bands.first.bandjoin(bands.drop(1)) * ((2**bits - 1) / 255.0)).cast(format).copy(interpretation: space)
      shares = image.cast(:float) * (1.0 / (2**bits - 1))
      grey = shares.extract_band(0, n: 3).recomb(Vips::Image.new_from_array([[0.2126, 0.7152, 0.0722]]))
      over = grey * shares[3] + (shares[3] * -1 + 1)
      expected = Numo::SFloat.from_binary(over.cast(:float).write_to_memory).reshape(500, 300)
      luma = described_class.read(image.pngsave_buffer).luma
      expect((luma - expected).abs.max).to be < 2e-7
    end
  end

  suite = File.join(Gem.loaded_specs.fetch("chunky_png").gem_dir, "spec/png_suite")
  parts = %w[background_chunks basic chunk_ordering compression_levels filtering gamma metadata sizes transparency]
  valid = Dir.glob("#{suite}/{#{parts.join(",")}}/*.png").sort
  broken = Dir.glob("#{suite}/broken/*.png").sort

  it "finds the test pictures" do
    expect([valid.size >= 120, broken.size]).to eq([true, 3])
  end

  it "reads every valid picture of PngSuite" do
    refused = valid.reject { |file| described_class.read(File.binread(file)).width.positive? }
    expect(refused).to be_empty
  end

  broken.each do |file|
    it "refuses #{File.basename(file)} in words" do
      expect { described_class.read(File.binread(file), name: "mark.png") }
        .to raise_error(
          described_class::Unreadable,
          /\Amark\.png is (damaged or cut off|not a PNG).*Nothing was kept\. .*\.\z/
        )
    end
  end

  it "agrees with chunky_png's decoder on luma over white, pixel by pixel" do
    eight_bit = Dir.glob("#{suite}/basic/*{0g08,2c08,3p08,6a08,4a08}.png")
    expect(eight_bit.size).to be >= 5
    eight_bit.each do |file|
      reference = ChunkyPNG::Image.from_file(file).pixels.map do |pixel|
        alpha = ChunkyPNG::Color.a(pixel) / 255.0
        [[:r, 0.2126], [:g, 0.7152], [:b, 0.0722]].sum { |band, weight|
          weight * (ChunkyPNG::Color.public_send(band, pixel) / 255.0 * alpha + 1 - alpha)
        }
      end
      luma = described_class.read(File.binread(file)).luma.flatten.to_a
      expect(luma.zip(reference).map { (_1 - _2).abs }.max).to be < 1e-5
    end
  end

  it "tells the kind by the first bytes, not by the name" do
    expect { described_class.read("just some words", name: "mark.png") }
      .to raise_error(described_class::Unreadable, /mark\.png is not a PNG, JPEG, WebP, TIFF or GIF picture/)
  end

  it "refuses a picture cut off in the middle" do
    whole = grey_png(Array.new(80) { |y| Array.new(80) { |x| (x * y) % 256 } })
    expect { described_class.read(whole[0, whole.bytesize / 2]) }.to raise_error(described_class::Unreadable, /cut off/)
  end

  it "refuses an empty file" do
    expect { described_class.read("") }.to raise_error(described_class::Unreadable, /0 bytes/)
  end

  it "refuses 30,000 × 30,000 pixels before unpacking them" do
    chunk = ->(type, data) { [data.bytesize].pack("N") + type + data + [Zlib.crc32(type + data)].pack("N") }
    row = "\0" * 30_001
    bomb = "\x89PNG\r\n\x1A\n".b + chunk["IHDR",
      [30_000, 30_000, 8, 0, 0, 0, 0].pack("NNC5")] + chunk["IDAT", Zlib.deflate(row * 10)] + chunk["IEND", ""]
    expect(bomb.bytesize).to be < 10_000
    before = Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID)
    expect {
      described_class.read(
        bomb,
        name: "huge.png"
      )
    }.to raise_error(described_class::Unreadable, /huge\.png is 30000 × 30000 pixels/)
    expect(Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID) - before).to be < 5
  end
end
