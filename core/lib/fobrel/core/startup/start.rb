# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # The painting program's stand-in: starts from a desk's folder as it lies there, loads what start.json lists in
      # that order, binds keys, paints one stroke with each brush, measures memory and time, and says how it went. It
      # trusts what it finds as a painting program does, and tells what is not as it was sent.
      #
      #   Start.run("var/desks/line-desk-1")[:failed]   # => 0
      class Start
        # What became of one brush. `memory` is what its decoded tips and grains hold, in bytes; `as_planned` whether it
        # paints as was sent; `strip` its stroke as a PNG.
        Loaded = Struct.new(
          :id, :name, :fingerprint, :ok, :problem, :ms, :key, :memory, :as_planned, :strip, keyword_init: true
        )

        # @param folder [String] a desk's folder
        # @param strips [Boolean] whether each brush's stroke comes along, as a PNG
        # @return [Hash] {started_at:, ms:, plan:, loaded: [Loaded as hashes], failed:, memory:, keys:, stray: [paths]}
        # @raise [Problem] when there is nothing to start from
        def self.run(folder, strips: false) = new(folder, strips).run

        # How far two strokes lie apart, pixel by pixel: the same fingerprint is a promise, this is what was painted.
        #
        # @param planned [Array<String>] PNGs
        # @param painted [Array<String>] PNGs, one for each
        # @return [Array<Integer>] the greatest difference of any sample, 0–255; 255 where their sizes differ
        def self.apart(planned, painted)
          planned.zip(painted).map do |pair|
            next 0 if pair[0] == pair[1]
            one, other = pair.map { |png| Vips::Image.new_from_buffer(png, "").colourspace(:srgb).flatten }
            next 255 unless [one.width, one.height] == [other.width, other.height]
            (one - other).abs.max.round
          rescue Vips::Error
            255
          end
        end

        def initialize(folder, strips)
          @folder = Folder.new(folder)
          @strips = strips
          @decoded = {}
          unless @folder.tree.kind(@folder.place(Plan::LISTING)) == :file
            raise Problem, "#{@folder.name} holds no start.json. Send a start-up plan to this desk first."
          end
          @plan = read_plan
        end

        # @return [Hash] see .run
        def run
          began = clock
          results = @plan["startup"].map { load_one(_1) }
          stray = own_brushes
          own = stray.map { load_one({"file" => _1, "name" => File.basename(_1, ".json")}) }
          {
            started_at: Time.now.utc.iso8601,
            ms: since(began),
            plan: @plan["plan"],
            loaded: (results + own).map { |one| one.to_h.compact },
            failed: (results + own).count { !_1.ok },
            memory: @decoded.values.sum,
            keys: keys(results),
            stray:
          }
        end

        private

        def read_plan
          plan = @folder.listing
          return plan if plan["format"] == Plan::FORMAT && plan["startup"].is_a?(Array) && plan["startup"].all?(Hash)
          raise Problem, "The start.json in #{@folder.name} is damaged. Repair it, or hand the plan out again."
        end

        # A painting program loads what lies in its startup folder, listed or not.
        def own_brushes
          listed = @plan["startup"].map { _1["file"] }
          names = @folder.tree.children(@folder.place("startup")).grep(/\A[^.].*\.json\z/).first(Folder::MOST)
          names.map { |name| "startup/#{name}" }.reject { |path| listed.include?(path) }
        end

        def load_one(entry)
          began = clock
          preset = Preset::Preset.parse(
            bytes(entry["file"].to_s, %r{\Astartup/[^/]+\.json\z}),
            name: "“#{entry["name"]}”"
          )
          memory = preset.parts.sum { |need| decode(need) }
          png = Stroke::Strip.png(preset, assets: Parts.new(method(:part)))
          same = preset.fingerprint == entry["fingerprint"]
          Loaded.new(
            **told(entry, preset), ok: true, ms: since(began), memory:, as_planned: same, strip: (png if @strips)
          )
        rescue Problem, Vips::Error, SystemCallError => e
          why = e.is_a?(Problem) ? e.message : "It cannot be read (#{e.class.name.split("::").last})."
          Loaded.new(**told(entry), ok: false, problem: why, ms: since(began))
        end

        def told(entry, preset = nil)
          {
            id: preset&.id || entry["id"],
            name: preset&.name || entry["name"],
            fingerprint: preset&.fingerprint || entry["fingerprint"],
            key: entry["key"]
          }
        end

        # One key picks one brush: the last one that wants it has it.
        def keys(results)
          results.select { _1.ok && _1.key }.to_h { |one| [one.key, one.name] }
        end

        # Held as a painting program holds it: 8 bits a plane, and each half-size copy down to one pixel.
        def decode(need)
          @decoded[need] ||= begin
            bytes = part(need) { raise Problem, "Its part #{Sum.in(need)[0, 12]}… is not in the folder." }
            copies(bytes)
          end
        end

        def copies(bytes)
          drawing = Tip::Picture.kind(bytes).nil?
          image = Tip::Picture.read(drawing ? Tip::Vector.picture(bytes) : bytes, name: "A part").image
          own = !drawing && image[3].min < 1 && Vips::Image.new_from_buffer(bytes, "").bands > 3
          planes = ((own ? image : image[0]) * 255).cast(:uchar)
          held = 0
          loop do
            held += planes.write_to_memory.bytesize
            return held if planes.width <= 1 && planes.height <= 1
            planes = planes.shrink([planes.width, 2].min, [planes.height, 2].min).cast(:uchar)
          end
        end

        # Where a need's part lies: by its content, which is its name.
        def part(need)
          sum = Sum.in(need)
          @names ||= @folder.tree.children(@folder.place("parts")).to_h { [_1[/\A[0-9a-f]{64}/], _1] }
          name = @names[sum] or return (block_given? ? yield : nil)
          found = bytes("parts/#{name}", %r{\Aparts/[^/]+\z})
          raise Problem, "Its part #{name[0, 12]}… was altered here." unless Sum.of(found) == sum
          found
        end

        # Answers for the pictures of a preset.
        Parts = Struct.new(:read) do
          def fetch(reference, &) = read.call(reference, &)
        end
        private_constant :Parts

        def bytes(path, allowed)
          raise Problem, "#{path.inspect[0, 80]} is not a file of a startup folder." unless path.match?(allowed)
          @folder.read(path)
        rescue Errno::ENOENT
          raise Problem, "#{File.basename(path)} is not in the folder."
        end

        def clock = Process.clock_gettime(Process::CLOCK_MONOTONIC)

        def since(began) = ((clock - began) * 1000).round(1)
      end
    end
  end
end
