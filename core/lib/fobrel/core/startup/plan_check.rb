# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # Whether what calls itself a start-up plan is one. Whoever sent it is not trusted: no path may lead anywhere but
      # into the folders that a plan has, and nothing is larger or longer than a plan can be.
      module PlanCheck
        FOLDERS = %w[startup shelf parts].freeze
        # One name in one folder: nothing that climbs, hides, or that a system reads as something else.
        PATH = Regexp.union(
          %r{\A(?:startup|shelf)/[^/\\\0[:cntrl:]]{1,150}\.json\z},
          %r{\Aparts/[0-9a-f]{64}\.(?:png|jpg|webp|tiff?|gif|svg)\z},
          /\AREAD ME\.txt\z/
        )
        SUM = /\A[0-9a-f]{64}\z/
        LARGEST_FILE = 512 * 1024 * 1024
        private_constant :PATH, :SUM

        class << self
          # @param hash [Object]
          # @return [Hash]
          # @raise [Problem]
          def check(hash)
            refuse("is not a start-up plan") unless hash.is_a?(Hash) && hash["format"] == Plan::FORMAT
            refuse("has no number") unless hash["plan"].is_a?(Integer)
            files = hash["files"]
            refuse("lists no files") unless files.is_a?(Hash) && files.size <= Plan::FILES
            files.each { |path, file| check_file(path, file) }
            refuse("has two files of one name") if files.keys.map(&:downcase).uniq.size < files.size
            Layers::PARTS.each { |part| check_list(hash[part], part, files) }
            hash
          end

          private

          def check_file(path, file)
            unless path.match?(PATH) && !path.include?("/.")
              refuse(
                "has a file where none may be (#{path.to_s[0,
                  80].inspect})"
              )
            end
            well = file.is_a?(Hash) && file["sum"].is_a?(String) && file["sum"].match?(SUM) &&
              file["bytes"].is_a?(Integer) && file["bytes"].between?(0, LARGEST_FILE)
            refuse("does not say what #{path} is") unless well
            named = path[%r{\Aparts/([0-9a-f]{64})}, 1]
            refuse("names #{path} otherwise than its content") if named && named != file["sum"]
          end

          def check_list(list, part, files)
            refuse("has no list of what is in #{part}") unless list.is_a?(Array) && list.size <= Plan::BRUSHES
            list.each do |line|
              well = line.is_a?(Hash) && line["id"].is_a?(String) && line["name"].is_a?(String) &&
                line["file"].to_s.start_with?("#{part}/") && files.key?(line["file"])
              refuse("has a line in #{part} that names no file of it") unless well
            end
          end

          def refuse(why) = raise(Problem, "What the server sent #{why}. Nothing was changed.")
        end
      end
    end
  end
end
