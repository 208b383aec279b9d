# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # A seat's folder as it lies there.
      #
      #   DIR/startup, shelf, parts, originals, aside, start.json, READ ME.txt   links into .fobrel/current
      #   DIR/.fobrel/current -> states/00007     one link is swapped, so all of them change in one step
      #   DIR/.fobrel/states/                     the last states, complete
      #   DIR/.fobrel/before/                     everything that was here before Fobrel, for ever
      #   DIR/anything else                       somebody's own: listed, never touched
      class Folder
        OWN = ".fobrel"
        FOLDERS = %w[startup shelf parts originals aside].freeze
        ROOT = [*FOLDERS, Plan::LISTING, Plan::WORDS].freeze
        # What was handed out, as the agent remembers it, whatever becomes of start.json.
        KEPT_PLAN = ".plan.json"
        # What is looked at of somebody's own files: more are counted, not listed.
        MOST = 5_000
        LARGEST = 512 * 1024 * 1024

        # One file: its path in the folder, size, sum, and when it was changed; a link is told by where it leads.
        Lies = Struct.new(:path, :bytes, :sum, :changed, :link, keyword_init: true)

        # @return [String]
        attr_reader :path

        # @param path [String] an absolute path, or one from here
        def initialize(path)
          @path = File.expand_path(path)
          @sums = {}
        end

        # @return [String] of a thing of the agent's own
        def own(*names) = File.join(path, OWN, *names)

        # @return [String, nil] the state that is there, by its name
        def current
          target = File.readlink(own("current"))
          name = target[%r{\Astates/(\d{5,})\z}, 1]
          name if name && File.directory?(own("states", name))
        rescue Errno::ENOENT, Errno::EINVAL, Errno::ENOTDIR
          nil
        end

        # @return [Array<String>] names of the states, the oldest first
        def states
          Dir.children(own("states")).grep(/\A\d{5,}\z/).sort_by(&:to_i)
        rescue Errno::ENOENT, Errno::ENOTDIR
          []
        end

        # @return [Hash, nil] the plan that was handed out last
        def plan(state = current)
          state && JSON.parse(File.read(own("states", state, KEPT_PLAN), encoding: "UTF-8"))
        rescue Errno::ENOENT, JSON::ParserError
          nil
        end

        # @return [Hash] what start.json says now; {} where it cannot be read
        def listing
          said = JSON.parse(File.read(place(Plan::LISTING), encoding: "UTF-8"))
          said.is_a?(Hash) ? said : {}
        rescue SystemCallError, JSON::ParserError, EncodingError
          {}
        end

        # Where something of ROOT lies: where its name leads, or within the state while it has no name yet.
        #
        # @return [String] an absolute path
        def place(name)
          top, rest = name.split("/", 2)
          at = File.join(path, top)
          at = own("current", top) if linked?(top) || !(File.exist?(at) || File.symlink?(at))
          rest ? File.join(at, rest) : at
        end

        # @return [Boolean] whether a name in the root leads into the state, as it should
        def linked?(name) = File.symlink?(File.join(path, name)) && File.readlink(File.join(path, name)) == target(name)

        def target(name) = File.join(OWN, "current", name)

        # Everything of a plan's folders, whoever wrote it.
        #
        # @return [Hash{String => Lies}] by path
        def scan
          found = FOLDERS.flat_map { |name| files_in(place(name), name) }
          found += [Plan::LISTING, Plan::WORDS].filter_map { |name| lies(place(name), name) }
          found.to_h { |one| [one.path, one] }
        end

        # Somebody's own files beside them, in the root and in folders there.
        #
        # @return [Array<String>] paths, at most MOST
        def beside
          names = Dir.children(path) - ROOT - [OWN]
          names.sort.flat_map { |name|
            at = File.join(path, name)
            (File.directory?(at) && !File.symlink?(at)) ? tree(at, name) : [name]
          }.first(MOST)
        rescue Errno::ENOENT
          []
        end

        # Bytes of a file that was scanned.
        #
        # @return [String]
        def read(name) = File.binread(place(name))

        private

        def tree(at, name)
          Dir.glob("**/*", File::FNM_DOTMATCH, base: at).reject { File.directory?(File.join(at, _1)) }.sort
            .first(MOST).map { File.join(name, _1) }
        end

        def files_in(at, name)
          return [lies(at, name)].compact unless File.directory?(at)
          Dir.glob("**/*", File::FNM_DOTMATCH, base: at).sort.first(Plan::FILES + MOST).filter_map { |rest|
            lies(File.join(at, rest), File.join(name, rest))
          }
        end

        def lies(at, name)
          stat = File.lstat(at)
          return Lies.new(path: name, bytes: 0, link: File.readlink(at), changed: stat.mtime.to_r) if stat.symlink?
          return unless stat.file?
          Lies.new(path: name, bytes: stat.size, sum: sum(at, stat), changed: stat.mtime.to_r)
        rescue Errno::ENOENT
          nil
        rescue Errno::EACCES
          Lies.new(path: name, bytes: stat.size, sum: "unreadable", changed: stat.mtime.to_r)
        end

        # What was summed once and is as it was is not read again.
        def sum(at, stat)
          key = [stat.dev, stat.ino, stat.size, stat.mtime.to_r, stat.ctime.to_r]
          @sums[key] ||= OpenSSL::Digest::SHA256.file(at).hexdigest
        end
      end
    end
  end
end
