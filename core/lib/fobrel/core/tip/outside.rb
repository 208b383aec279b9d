# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # Pictures and shapes from outside. Each is unpacked in a process of its own (see Apart), so that
      # none can hold or end the one that asks.
      #
      #   Outside.check(bytes, name: "leaf.tif")   # => "tif"
      module Outside
        # Processor time and memory for one file.
        LIMITS = {seconds: 20, memory: Apart::MEMORY, fresh: true}.freeze

        # Marks made of one file's pictures: in their own colours or not; one PNG or a sentence each.
        Marks = Struct.new(:own, :found)

        class << self
          # Whether a file can be used as a picture.
          #
          # @return [String] the ending that belongs to what it is
          # @raise [Picture::Unreadable]
          def check(bytes, name: "The picture")
            here = bytes.bytesize <= Picture::MAX_BYTES && Png.whole?(
              bytes.b,
              most_side: Picture::MAX_SIDE,
              most_pixels: Picture::MAX_PIXELS
            )
            apart(Picture, :check, bytes, name:) unless here
            Picture.kind(bytes)
          end

          # Whether a shape can be used as it is; of a package, for its sum is told there.
          #
          # @return [String] "svg"
          # @raise [Picture::Unreadable] also where it would run or load something
          def check_shape(bytes, name: "The shape")
            apart(Vector, :check, bytes, name:, seconds: Vector::SECONDS)
            "svg"
          end

          # @return [String] a shape's file without what a drawing does not need
          # @raise [Picture::Unreadable]
          def shape(bytes, name: "The shape") = apart(Vector, :cleaned, bytes, name:, seconds: Vector::SECONDS)

          # A tip of each picture in a file.
          #
          # @param own [Boolean, nil] in their own colours; nil finds out
          # @return [Marks]
          # @raise [Picture::Unreadable]
          def marks(bytes, name: "The picture", own: nil) = apart(self, :marks_here, bytes, name:, own:)

          # As Thumb.square.
          def square(bytes, side, name: "The picture") = apart(Thumb, :square, bytes, side, name:)

          # As Layers.laid.
          def layer(bytes, place, canvas, name:) = apart(Layers, :laid, bytes, place, canvas, name:)

          # @api private
          def marks_here(bytes, name:, own: nil)
            frames = Picture.frames(bytes, name:)
            own = own?(frames, name) if own.nil?
            found = frames.each_with_index.map do |frame, index|
              mark(frame, (frames.size > 1) ? "#{name}, frame #{index + 1}" : name, own)
            end
            Marks.new(own, found)
          end

          private

          def apart(owner, method, bytes, *args, name:, **options)
            Apart.call(owner, method, bytes.is_a?(String) ? bytes.b : bytes, *args, name:, **LIMITS.merge(options))
          rescue Apart::Ended => e
            raise Picture::Unreadable,
              "#{name} could not be unpacked. #{e.message} Nothing was kept. Save it smaller or plainer."
          end

          # Pictures in colour keep their colours where their ground is see-through; on white paper
          # nobody can tell what is mark and what is ground, so there black paints.
          def own?(frames, name)
            frames.any? do |bytes|
              picture = Picture.read(bytes, name:)
              picture.see_through? && picture.coloured?
            end
          rescue Problem
            false # told of when it is made a mark
          end

          # @return [Array] :png with its bytes, or :trouble with a sentence
          def mark(bytes, name, own)
            [:png, own ? Paint.from_picture(Picture.read(bytes, name:)).crop.to_png : Maker.make(bytes, name:).png]
          rescue Problem => e
            [:trouble, e.message]
          end
        end
      end
    end
  end
end
