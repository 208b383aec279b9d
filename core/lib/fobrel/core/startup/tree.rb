# frozen_string_literal: true

require "securerandom"

module Fobrel
  module Core
    module Startup
      # A folder that somebody else may change at any moment. No link in it is ever followed: every path is opened part
      # by part, each from a handle of the folder above it (as openat(2) with O_NOFOLLOW does, by way of /proc/self/fd),
      # so a folder that becomes a link meanwhile leads nowhere. What is written is new: under a name nobody can guess,
      # then renamed.
      #
      #   tree = Tree.new("/home/tove/brushes")
      #   tree.write("startup/01 Fog.json", bytes, mode: 0o644)
      #   tree.read("startup/01 Fog.json", most: 1_000_000)
      #   tree.kind("shelf")   # => :link, wherever it leads
      class Tree
        # Raised where a part of a path is a link, or is no folder. Nothing was read or written there.
        class Foreign < Problem; end
        # Raised where a file is larger than it may be.
        class TooLarge < Problem; end

        READ = File::RDONLY | File::NOFOLLOW | File::NONBLOCK
        FRESH = File::WRONLY | File::CREAT | File::EXCL | File::NOFOLLOW
        # Folders in folders: deeper ones are not looked into.
        DEPTH = 24
        # For what is the agent's own.
        PRIVATE = 0o600
        PRIVATE_FOLDER = 0o700
        # For what a painting program reads, whoever runs it.
        SHARED = 0o644
        SHARED_FOLDER = 0o755
        HANDLES = "/proc/self/fd"
        private_constant :READ, :FRESH, :HANDLES

        # One thing in a walk: its path, and what lstat(2) says of it.
        Found = Struct.new(:path, :stat)

        # @return [String]
        attr_reader :path

        # @param path [String] the folder; it may not be a link itself
        def initialize(path)
          @path = path
        end

        # @return [Boolean]
        def there? = File.directory?(@path) && !File.symlink?(@path)

        # @param path [String] within the folder, as in all methods below
        # @return [Symbol, nil] :file, :folder, :link or :other; nil where there is nothing
        def kind(path)
          stat = stat(path) or return
          return :link if stat.symlink?
          return :folder if stat.directory?
          stat.file? ? :file : :other
        end

        # @return [File::Stat, nil] of a link itself
        def stat(path)
          within(path) { |at| File.lstat(at) }
        rescue Errno::ENOENT, Errno::ENAMETOOLONG, Foreign
          nil
        end

        # @return [String, nil] where a link says that it leads; nil where it is none
        def readlink(path)
          within(path) { |at| File.readlink(at) }
        rescue Errno::ENOENT, Errno::EINVAL, Foreign
          nil
        end

        # @return [Array<String>] names, sorted; none where there is no such folder
        def children(path = "")
          folder(path) { |at| Dir.children(at).sort }
        rescue Errno::ENOENT, Foreign
          []
        end

        # Everything below a folder that is no folder itself, links too, in the order of names.
        #
        # @param most [Integer] things that are looked at: what is more is left out
        # @return [Array<Found>]
        def walk(path, most:)
          found = []
          seen = 0
          visit(path, 0) do |one|
            found << one unless one.stat.directory?
            throw(:enough) if (seen += 1) >= most
          end
          found
        end

        # @param most [Integer] bytes
        # @return [String] binary
        # @raise [Errno::ENOENT, Foreign, TooLarge]
        def read(path, most:)
          open_file(path) do |file|
            raise TooLarge, "#{File.basename(path)} is too large." if file.size > most
            # As much as there is: a buffer of the most would be taken whole.
            file.read(file.size).to_s
          end
        end

        # @yieldparam file [File] binary, to read from; what is no plain file is not opened
        # @raise [Errno::ENOENT, Foreign]
        def open_file(path)
          within(path) do |at|
            File.open(at, READ | File::BINARY) do |file|
              raise Foreign, "#{path} is not a plain file." unless file.stat.file?
              yield file
            end
          end
        rescue Errno::ELOOP
          raise Foreign, "#{path} is a link."
        end

        # Writes a whole file in one step, over one that is there.
        #
        # @param bytes [String]
        # @param mode [Integer]
        def write(path, bytes, mode:)
          create(path, mode:) { |file| file.write(bytes) }
        end

        # @yieldparam file [File] to write to; it gets its name once it is on the disk
        def create(path, mode:)
          within(path) do |at|
            fresh = "#{at}.#{SecureRandom.hex(8)}.next"
            File.open(fresh, FRESH | File::BINARY, mode) do |file|
              # The mode that was asked for, whatever the process leaves out.
              file.chmod(mode)
              yield file
              file.fsync
            end
            File.rename(fresh, at)
          rescue
            remove_entry(fresh)
            raise
          end
        end

        # Goes on with a file of the agent's own that was cut off. Nobody else's file is reached under a second name.
        #
        # @yieldparam file [File] at its end
        def append(path)
          within(path) do |at|
            File.open(at, File::WRONLY | File::APPEND | File::NOFOLLOW | File::NONBLOCK | File::BINARY) do |file|
              raise Foreign, "#{path} is not a file of ours." unless file.stat.file? && file.stat.nlink == 1
              yield file
              file.fsync
            end
          end
        rescue Errno::ELOOP
          raise Foreign, "#{path} is a link."
        end

        # Makes folders where there are none yet.
        #
        # @param mode [Integer] of those that are made
        def make(path, mode: SHARED_FOLDER)
          parts(path).inject([]) do |above, name|
            step = [*above, name]
            within(step.join("/")) { |at| Dir.mkdir(at, mode) && File.chmod(mode, at) }
            step
          rescue Errno::EEXIST
            folder(step.join("/")) { step }
          end
        end

        def rename(from, to) = within(from) { |one| within(to) { |other| File.rename(one, other) } }

        # Two names change places in one step.
        #
        # @return [Boolean] false where the system cannot: nothing was changed then
        def exchange(one, other) = within(one) { |a| within(other) { |b| Exchange.call(a, b) } }

        # @param target [String] where the link says that it leads
        def link(target, path) = within(path) { |at| File.symlink(target, at) }

        # Copies a file or a link as it is; a link is not read.
        #
        # @param mode [Integer, nil] nil keeps the file's own
        def copy(from, to, mode: nil)
          target = readlink(from)
          return link(target, to) if target
          open_file(from) do |source|
            stat = source.stat
            create(to, mode: mode || (stat.mode & 0o777)) { |file| IO.copy_stream(source, file) }
            within(to) { |at| File.utime(stat.atime, stat.mtime, at) }
          end
        end

        # Copies all that lies below a folder, or one thing.
        def copy_all(from, to)
          return unless (kind = kind(from))
          return copy(from, to) unless kind == :folder
          make(to, mode: PRIVATE_FOLDER)
          children(from).each { |name|
            copy_all("#{from}/#{name}", "#{to}/#{name}") if kind("#{from}/#{name}") != :other
          }
        end

        # Takes away whatever it is; a link goes, and what it leads to stays.
        #
        # @return [Boolean, nil] nil where it was not there
        def remove(path)
          within(path) { |at| remove_entry(at) || true }
        rescue Errno::ENOENT
          nil
        end

        # @return [Boolean] whether two files have the same bytes
        def same?(one, other)
          open_file(one) { |a| open_file(other) { |b| a.size == b.size && FileUtils.compare_stream(a, b) } }
        rescue Errno::ENOENT, Foreign
          false
        end

        # @return [String] the SHA-256 of a file, in hexadecimal digits
        def sum(path)
          open_file(path) do |file|
            digest = OpenSSL::Digest.new("SHA256")
            digest << file.readpartial(1 << 20) until file.eof?
            digest.hexdigest
          end
        end

        # Brings a file's or folder's content to the disk.
        def sync(path = "")
          case path.empty? ? :folder : kind(path)
          when :folder then folder(path) { |_, handle| handle.fsync }
          when :file then open_file(path, &:fsync)
          end
        rescue Errno::EINVAL, Errno::EBADF
          nil # a file system that keeps folders otherwise
        end

        # Brings a folder and all below it to the disk.
        def sync_all(path)
          visit(path, 0) { |one| sync(one.path) unless one.stat.symlink? }
          sync(path)
        end

        # @param patience [Numeric] seconds to wait for whoever has it
        # @yieldparam file [File] locked for one agent; nil where another has it
        def locked(path, patience: 0)
          within(path) do |at|
            flags = File::RDWR | File::CREAT | File::NOFOLLOW | File::NONBLOCK
            File.open(at, flags, PRIVATE) { |file| yield(lock(file, patience) ? file : nil) }
          end
        rescue Errno::ELOOP
          raise Foreign, "#{path} is a link."
        end

        PAUSE = 0.05
        private_constant :PAUSE

        private

        def lock(file, patience)
          ends = Process.clock_gettime(Process::CLOCK_MONOTONIC) + patience
          loop do
            return true if file.flock(File::LOCK_EX | File::LOCK_NB)
            return false if Process.clock_gettime(Process::CLOCK_MONOTONIC) > ends
            sleep(PAUSE)
          end
        end

        def parts(path) = path.split("/").reject { |name| name.empty? || name == "." }

        # Opens a folder and those above it, each from the one before.
        #
        # @yieldparam at [String] an address of the folder that nobody can change
        # @yieldparam handle [File]
        def folder(path)
          opened = [directory(@path)]
          parts(path).each { |name| opened << directory(address(opened.last, name)) }
          yield address(opened.last), opened.last
        rescue Errno::ELOOP, Errno::ENOTDIR
          raise Foreign, "#{[File.basename(@path), *parts(path)].join("/")} is a link, or no folder."
        ensure
          opened&.each(&:close)
        end

        # @return [File] a handle of a folder that is no link
        # @raise [Errno::ELOOP, Errno::ENOTDIR]
        def directory(at)
          handle = File.open(at, READ)
          return handle if handle.stat.directory?
          handle.close
          raise Errno::ENOTDIR, at
        end

        # @yieldparam at [String] of a thing in a folder; its last part is a name that is not looked up yet
        def within(path)
          *above, name = parts(path)
          raise ArgumentError, "no path within the folder: #{path.inspect}" if name.nil? || parts(path).include?("..")
          folder(above.join("/")) { |at| yield File.join(at, name) }
        end

        # Where the system has no such addresses, a path: whoever runs the agent there is alone in their folder.
        def address(handle, *names)
          return File.join(HANDLES, handle.fileno.to_s, *names) if File.directory?(HANDLES)
          File.join(handle.path, *names)
        end

        def visit(path, depth, &block)
          catch(:enough) { descend(path, depth, &block) }
        end

        def descend(path, depth)
          return if depth > DEPTH
          children(path).each do |name|
            below = path.empty? ? name : "#{path}/#{name}"
            stat = stat(below) or next
            yield Found.new(below, stat)
            descend(below, depth + 1) { |one| yield one } if stat.directory?
          end
        end

        # By handles too: what is a folder now may be a link in a moment.
        def remove_entry(at)
          return File.unlink(at) unless File.lstat(at).directory?
          handle = directory(at)
          Dir.children(address(handle)).each { |name| remove_entry(address(handle, name)) }
          Dir.rmdir(at)
        rescue Errno::ENOENT
          nil
        rescue Errno::ELOOP, Errno::ENOTDIR
          File.unlink(at)
        ensure
          handle&.close
        end
      end
    end
  end
end
