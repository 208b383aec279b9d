# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # What of a folder goes along into its next state, and where to: all that the agent did not write, as it is; what
      # was altered here and is replaced goes aside; a stock brush whose place another takes goes to the originals, and
      # comes back when nobody takes it any more.
      class Carry
        # @return [Hash{String => String}] from where it lies to where it goes
        attr_reader :moves
        # @return [Set<String>] paths of the plan that are left as somebody decided
        attr_reader :instead

        # A free name beside others of the kind.
        #
        # @param path [String] of what goes aside
        # @param there [#call] whether a name is taken where it goes
        # @return [String]
        def self.aside(path, there = ->(_) {}, taken = [])
          base, ext = File.basename(path, ".*"), File.extname(path)
          (1..).lazy.map { |n| "aside/#{base}#{" (#{n})" if n > 1}#{ext}" }
            .find { |name| !taken.include?(name.downcase) && !there.call(name) }
        end

        # @param folder [Folder] as it lies
        # @param plan [Hash] the next one
        # @param kept [Array<Hash>] "path", and a "sum" where it counts for that content only
        # @param repair [Boolean, Array<String>] whether what differs becomes as planned; or only these paths
        def initialize(folder, plan, kept:, repair:)
          @folder = folder
          @plan = plan
          @old = folder.plan
          @kept = kept
          @repair = repair
          @moves = {}
          @instead = Set.new
          @taken = plan["files"].keys.to_set(&:downcase)
          @was, @will = [@old, plan].map { |one| ids(one) }
        end

        # @param lies [Hash{String => Folder::Lies}]
        # @return [Hash{String => String}] what had to go elsewhere, and where it went
        def call(lies)
          @lies = lies
          sorted = lies.reject { |path, one| ours?(path, one) || renamed?(path, one) }.sort
          # What keeps its place comes before what has to find one.
          first, then_ = sorted.partition { |path, _| stays?(path, lies[path]) }
          first.each { |path, _| stay(path) }
          then_.each { |path, _| move(path, elsewhere(path)) }
          gone(lies)
          @moves.reject { |from, to| from == to }
        end

        private

        # @return [Hash{String => String}] path to the brush that lies there
        def ids(plan) = Layers::PARTS.flat_map { |part| plan&.dig(part) || [] }.to_h { [_1["file"], _1["id"]] }

        # Which file of the next plan has the brush of one of this plan.
        def next_path(path) = @was[path] && @will.key(@was[path])

        # As the agent wrote it: the new state has its own.
        def ours?(path, one)
          return listing_ours?(one) if path == Plan::LISTING
          @old && @old["files"][path]&.fetch("sum") == one.sum && !one.link
        end

        # Written by the agent and given another name; where the brush comes back under its own, this one goes.
        def renamed?(path, one)
          return false unless @old && one.sum && path.start_with?("startup/", "shelf/") && !@old["files"].key?(path)
          from = @old["files"].find { |name, file| file["sum"] == one.sum && @was.key?(name) && !@lies.key?(name) }
          from && repaired?(from.first)
        end

        # Its own writing of the plan, whatever the blanks.
        def listing_ours?(one)
          return false unless @old
          said = @folder.listing
          one.sum && said == @old.except("kept")
        end

        def planned?(path) = @old&.dig("files", path) || path == Plan::LISTING

        def stays?(path, one)
          return decided?(path, one.sum) || !repaired?(path) if planned?(path)
          !wanted_by_stock?(path) && !back_from_originals?(path) && !@taken.include?(path.downcase)
        end

        def stay(path)
          # A brush's number may be another one now; one that the plan has no more lies where it lay.
          to = next_path(path) || path
          @instead << to if @plan["files"].key?(to) || to == Plan::LISTING
          move(path, to)
        end

        # By the brush where there is one: its file's name tells its place, which changes.
        def decided?(path, sum, id = @was[path])
          @kept.any? { |one| (one["path"] == path || (id && one["id"] == id)) && [nil, sum].include?(one["sum"]) }
        end

        def repaired?(path) = @repair == true || Array(@repair || []).include?(path)

        # Deleted here, and it may stay so.
        def gone(lies)
          @will.each do |path, id|
            was = @was.key(id)
            next if was.nil? || lies.key?(was)
            @instead << path if decided?(was, "gone", id) || !repaired?(was)
          end
        end

        def elsewhere(path)
          return Carry.aside(path, ->(_) {}, taken) if planned?(path) || !path.include?("/")
          name = File.basename(path)
          return free("originals/#{name}") if wanted_by_stock?(path)
          return free("startup/#{name}") if back_from_originals?(path)
          free(path)
        end

        def move(from, to)
          @moves[from] = to
          @taken << to.downcase
        end

        attr_reader :taken

        def free(path)
          ext = File.extname(path)
          base = path.delete_suffix(ext)
          (1..).lazy.map { |n|
            (n == 1) ? path : "#{base} (own#{" #{n}" if n > 2})#{ext}"
          }.find { !@taken.include?(_1.downcase) }
        end

        def stock
          @stock ||= Layers::PARTS.flat_map { |part| @plan[part] }.filter_map { _1["replaces"] }.to_set(&:downcase)
        end

        def wanted_by_stock?(path)
          path.start_with?("startup/") && stock.any? && (name = name_of(path)) && stock.include?(name.downcase)
        end

        def back_from_originals?(path)
          path.start_with?("originals/") && !((name = name_of(path)) && stock.include?(name.downcase))
        end

        def name_of(path)
          return unless path.end_with?(".json")
          (@names ||= {})[path] ||= begin
            said = JSON.parse(@folder.read(path, most: Drift::LARGEST))
            said["name"].to_s if said.is_a?(Hash)
          rescue JSON::ParserError, EncodingError, Problem, SystemCallError
            nil
          end
        end
      end
    end
  end
end
