# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # Tells whether a PNG is whole (W3C PNG Specification, Third Version) without making a picture
      # of it: every chunk's sum, and that the pixels unpack to just what the header says.
      module Png
        SIGNATURE = "\x89PNG\r\n\x1A\n".b
        # Samples a pixel by colour type.
        CHANNELS = {0 => 1, 2 => 3, 3 => 1, 4 => 2, 6 => 4}.freeze
        # A filter is told at the beginning of each line: none, sub, up, average, Paeth.
        FILTERS = 4

        # @param bytes [String]
        # @param most_side [Integer] px
        # @param most_pixels [Integer]
        # @return [Boolean] false also for what is whole but not plain, such as interlaced ones
        def self.whole?(bytes, most_side:, most_pixels:)
          chunks = chunks(bytes) or return false
          return false unless chunks.first&.first == "IHDR" && chunks.last.first == "IEND"
          width, height, depth, colour, _, _, interlace = chunks.first.last.unpack("NNC5")
          return false unless interlace == 0 && CHANNELS.key?(colour) && width.between?(
            1,
            most_side
          ) && height.between?(1, most_side) && width * height <= most_pixels
          line = 1 + (width * CHANNELS[colour] * depth + 7) / 8
          lines?(chunks.filter_map { |type, data| data if type == "IDAT" }.join, line, height)
        end

        class << self
          private

          def chunks(bytes)
            return unless bytes.start_with?(SIGNATURE)
            at = SIGNATURE.bytesize
            found = []
            while at < bytes.bytesize
              length = bytes.byteslice(at, 4).unpack1("N")
              type = bytes.byteslice(at + 4, 4)
              data = bytes.byteslice(at + 8, length.to_i)
              sum = bytes.byteslice(at + 8 + length.to_i, 4)&.unpack1("N")
              return unless sum && data && Zlib.crc32(data, Zlib.crc32(type)) == sum
              found << [type, data]
              at += 12 + length
            end
            found
          end

          # Piece by piece: all pixels together may be larger than the file by far.
          def lines?(packed, line, height)
            at = 0
            inflater = Zlib::Inflate.new
            inflater.inflate(packed) do |piece|
              first = -at % line
              first.step(piece.bytesize - 1, line) { |start| return false if piece.getbyte(start) > FILTERS }
              at += piece.bytesize
              return false if at > line * height
            end
            at == line * height && inflater.finished?
          rescue Zlib::Error
            false
          ensure
            inflater&.close
          end
        end
      end
    end
  end
end
