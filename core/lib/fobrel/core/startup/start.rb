# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # The painting program's stand-in: starts from a startup folder, loads what its
      # start.json lists, paints one stroke with each brush, and says how it went.
      class Start
        # What became of one brush: its name, whether it loaded, why not, how long it took.
        Loaded = Struct.new(:id, :name, :fingerprint, :ok, :problem, :ms, keyword_init: true)

        # @param folder [String] a startup folder, or a seat's folder that holds one
        # @return [Hash] {folder:, started_at:, ms:, loaded: [Loaded as hashes], failed: count, stray: [paths]}
        # @raise [Problem] when there is nothing to start from
        def self.run(folder) = new(folder).run

        def initialize(folder)
          folder = File.join(folder, "startup") unless File.file?(File.join(folder, "start.json"))
          unless File.file?(
            File.join(
              folder, "start.json"
            )
          )
            raise Problem,
              "#{folder} holds no start.json. Hand a start plan out to this seat first."
          end
          @folder = folder
          @plan = read_plan
        end

        def run
          began = clock
          results = @plan.fetch("presets").map { load_one(_1) }
          {
            folder: @folder,
            started_at: Time.now.utc.iso8601,
            ms: since(began),
            loaded: results.map(&:to_h),
            failed: results.count { !_1.ok },
            stray: stray
          }
        end

        private

        def read_plan
          plan = JSON.parse(File.read(File.join(@folder, "start.json"), encoding: "UTF-8"))
          ours = plan.is_a?(Hash) && plan["format"] == Plan::FORMAT
          return plan if ours && plan["presets"].is_a?(Array) && plan["files"].is_a?(Hash)
          raise Problem, "The start.json of #{@folder} is not a start plan. Hand the plan out again."
        rescue JSON::ParserError
          raise Problem, "The start.json of #{@folder} is damaged. Hand the plan out again."
        end

        def load_one(entry)
          began = clock
          preset = Preset::Preset.parse(checked(entry["file"].to_s), name: "“#{entry["name"]}”")
          raise Problem, "It is not the brush that was handed out." unless preset.known_as?(entry["fingerprint"])
          Stroke::Strip.png(preset, assets: Parts.new(@plan["files"].keys.grep(%r{\Aparts/}), method(:checked)))
          Loaded.new(**told(entry), ok: true, ms: since(began))
        rescue Problem => e
          Loaded.new(**told(entry), ok: false, problem: e.message, ms: since(began))
        end

        def told(entry) = {id: entry["id"], name: entry["name"], fingerprint: entry["fingerprint"]}

        # Answers for the pictures of a preset, each checked against its sum.
        Parts = Struct.new(:paths, :read) do
          def fetch(reference)
            path = paths.find { File.basename(_1, ".*") == Sum.in(reference) }
            path ? read.call(path) : yield
          end
        end
        private_constant :Parts

        def checked(path)
          sum = @plan["files"][path] or raise Problem, "#{path} is not part of the plan. Hand the plan out again."
          file = File.join(@folder, path)
          unless path.match?(%r{\A(presets|parts)/[\w.-]+\z}) && File.file?(file)
            raise Problem,
              "#{path} is not in the folder. Hand the plan out again."
          end
          bytes = File.binread(file)
          return bytes if Sum.of(bytes) == sum
          raise Problem, "#{path} was changed after it was handed out. Hand the plan out again."
        end

        def stray = Dir.glob("{presets,parts}/*", base: @folder).sort - @plan["files"].keys

        def clock = Process.clock_gettime(Process::CLOCK_MONOTONIC)

        def since(began) = ((clock - began) * 1000).round(1)
      end
    end
  end
end
