# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # A desk's folder as it lies there.
      #
      #   DIR/startup, shelf, parts, originals, aside, start.json, READ ME.txt   links into .fobrel/current
      #   DIR/.fobrel/current -> states/00007     one link is swapped, so all of them change in one step
      #   DIR/.fobrel/states/                     the last states, complete
      #   DIR/.fobrel/before/                     everything that was here before Fobrel, for ever
      #   DIR/anything else                       somebody's own: listed, never touched
      #
      # Whoever works at the desk may write here, so no link is followed but these, and these only to where they must
      # lead.
      class Folder
        OWN = ".fobrel"
        FOLDERS = %w[startup shelf parts originals aside].freeze
        ROOT = [*FOLDERS, Plan::LISTING, Plan::WORDS].freeze
        # What was sent, as the agent remembers it, whatever becomes of start.json.
        KEPT_PLAN = ".plan.json"
        # What is looked at of somebody's own files: more are counted, not listed.
        MOST = 5_000
        LARGEST = 512 * 1024 * 1024
        # Bytes that are read at the most to tell what lies there.
        SUMMED = 4 * 1024 * 1024 * 1024

        # One file: its path in the folder, size, sum, and when it was changed; a link is told by where it leads.
        Lies = Struct.new(:path, :bytes, :sum, :changed, :link, keyword_init: true)

        # @return [String]
        attr_reader :path

        # @return [Tree]
        attr_reader :tree

        # @param path [String] an absolute path, or one from here
        def initialize(path)
          @path = File.expand_path(path)
          @tree = Tree.new(@path)
          @sums = {}
        end

        # @return [String] what a sentence calls it: where it lies is nobody's business but the machine's
        def name = File.basename(path)

        # @return [String] of a thing of the agent's own, within the folder
        def own(*names) = [OWN, *names].join("/")

        # @return [String, nil] the state that is there, by its name
        def current
          name = tree.readlink(own("current"))&.slice(%r{\Astates/(\d{5,})\z}, 1)
          name if name && tree.kind(own("states", name)) == :folder
        end

        # @return [Array<String>] names of the states, the oldest first
        def states
          tree.children(own("states")).grep(/\A\d{5,}\z/).select { |name| tree.kind(own("states", name)) == :folder }
            .sort_by(&:to_i)
        end

        # @return [Hash, nil] the plan that was sent last
        def plan(state = current)
          said = state && JSON.parse(text(own("states", state, KEPT_PLAN)))
          said if plan?(said)
        rescue SystemCallError, Problem, JSON::ParserError, EncodingError
          nil
        end

        # @return [Hash] what start.json says now; {} where it cannot be read
        def listing
          said = JSON.parse(text(place(Plan::LISTING)))
          said.is_a?(Hash) ? said : {}
        rescue SystemCallError, Problem, JSON::ParserError, EncodingError
          {}
        end

        # Where something of ROOT lies: where its name leads, or within the state while it has no name yet.
        #
        # @return [String] within the folder
        def place(name)
          top, rest = name.split("/", 2)
          at = (linked?(top) || tree.kind(top).nil?) ? own("states", current || "none", top) : top
          rest ? "#{at}/#{rest}" : at
        end

        # @return [Boolean] whether a name in the root leads into the state, as it should
        def linked?(name) = tree.readlink(name) == target(name)

        def target(name) = own("current", name)

        # Everything of a plan's folders, whoever wrote it. A link among it is told and not followed.
        #
        # @return [Hash{String => Lies}] by path
        def scan
          @left = SUMMED
          found = FOLDERS.flat_map { |name| files_in(place(name), name) }
          found += [Plan::LISTING, Plan::WORDS].filter_map { |name|
            at = place(name)
            stat = tree.stat(at)
            stat && lies(at, name, stat)
          }
          found.to_h { |one| [one.path, one] }
        end

        # Somebody's own files beside them, in the root and in folders there.
        #
        # @return [Array<String>] paths, at most MOST
        def beside
          (tree.children - ROOT - [OWN]).each_with_object([]) do |name, found|
            break found.first(MOST) if found.size >= MOST
            found.concat((tree.kind(name) == :folder) ? tree.walk(name, most: MOST).map(&:path) : [name])
          end.first(MOST)
        end

        # Bytes of a file that was scanned.
        #
        # @return [String]
        # @raise [Errno::ENOENT, Tree::Foreign, Tree::TooLarge]
        def read(name, most: LARGEST) = tree.read(place(name), most:)

        private

        def text(path) = tree.read(path, most: Plan::LARGEST).force_encoding("UTF-8")

        # What the rest relies on: somebody may have written over it.
        def plan?(said)
          said.is_a?(Hash) && said["files"].is_a?(Hash) && said["files"].values.all?(Hash) &&
            [Hash, NilClass].any? { |kind| said["desk"].is_a?(kind) } &&
            Layers::PARTS.all? { |part| said[part].is_a?(Array) && said[part].all? { |line| line?(line) } }
        end

        def line?(line) = line.is_a?(Hash) && %w[id name file].all? { |key| line[key].is_a?(String) }

        def files_in(at, name)
          stat = tree.stat(at) or return []
          return [lies(at, name, stat)].compact unless stat.directory?
          tree.walk(at, most: Plan::FILES + MOST).filter_map { |one|
            lies(one.path, "#{name}#{one.path.delete_prefix(at)}", one.stat)
          }
        end

        def lies(at, name, stat)
          changed = stat.mtime.to_r
          return Lies.new(path: name, bytes: 0, link: tree.readlink(at).to_s, changed:) if stat.symlink?
          return unless stat.file?
          Lies.new(path: name, bytes: stat.size, sum: sum(at, stat), changed:)
        rescue Errno::ENOENT
          nil
        rescue Errno::EACCES, Tree::Foreign
          Lies.new(path: name, bytes: stat.size, sum: "unreadable", changed:)
        end

        # What was summed once and is as it was is not read again; of what is far too much for brushes, nothing is read.
        def sum(at, stat)
          key = [stat.dev, stat.ino, stat.size, stat.mtime.to_r, stat.ctime.to_r]
          return @sums[key] if @sums.key?(key)
          return "too large" if stat.size > LARGEST || (@left -= stat.size).negative?
          @sums[key] = tree.sum(at)
        end
      end
    end
  end
end
