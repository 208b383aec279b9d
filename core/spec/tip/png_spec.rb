# frozen_string_literal: true

# Held against libpng (through libvips), which reads the whole picture.
RSpec.describe Fobrel::Core::Tip::Png do
  def whole?(bytes) = described_class.whole?(bytes.b, most_side: 4000, most_pixels: 4_000_000)

  let(:noise) { Vips::Image.gaussnoise(37, 21, mean: 128, sigma: 60).cast(:uchar) }

  it "knows whole ones of every depth and colour, and leaves interlaced ones to others" do
    grey = noise.copy(interpretation: :b_w)
    colour = noise.bandjoin([noise, noise]).copy(interpretation: :srgb)
    images = [grey, colour, colour.bandjoin(200), grey.cast(:ushort).copy(interpretation: :grey16)]
    plain = images.map(&:pngsave_buffer) + [1, 2, 4].map { grey.pngsave_buffer(bitdepth: _1) }
    plain << colour.pngsave_buffer(palette: true)
    expect(plain.map { whole?(_1) }).to all(be true)
    expect(whole?(grey.pngsave_buffer(interlace: true))).to be false
    expect(described_class.whole?(plain[0], most_side: 30, most_pixels: 4_000_000)).to be false
  end

  it "takes nothing for whole that libpng refuses" do
    chance = Random.new(5)
    bytes = noise.copy(interpretation: :b_w).pngsave_buffer
    200.times do
      hurt = bytes.dup
      case chance.rand(3)
      when 0 then hurt.setbyte(chance.rand(hurt.bytesize), chance.rand(256))
      when 1 then hurt = hurt[0, chance.rand(hurt.bytesize)]
      else hurt.insert(chance.rand(hurt.bytesize), chance.bytes(3))
      end
      next unless whole?(hurt)
      expect { Vips::Image.new_from_buffer(hurt, "", fail_on: :warning).write_to_memory }.not_to raise_error
    end
    # The sums put right again, the pixels too few.
    header = [37, 22, 8, 0, 0, 0, 0].pack("NNC5")
    forged = bytes[0, 16] + header + [Zlib.crc32("IHDR" + header)].pack("N") + bytes[33..]
    expect([whole?(bytes), whole?(forged)]).to eq([true, false])
  end
end
