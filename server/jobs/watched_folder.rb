# frozen_string_literal: true

module Fobrel
  module Jobs
    # A stand-in for a shared drive: what is laid into var/import/<library>/ becomes an import.
    #
    # A file is looked at once it stopped growing. One that is too large is never read. The others are
    # moved aside first, and read from there: what cannot be moved is not read either. Whatever goes
    # wrong is told in Import, once for each file, and the next one is looked at. Whoever lays files here could lay
    # links, too: none is followed (Core::Startup::Tree).
    module WatchedFolder
      EVERY = 2
      # What stands before the state of a file that was dealt with.
      DONE = :done
      # A file's name may have this many bytes (ext4, and most others).
      LONGEST = 255
      # Where files lie that were read, and those that are being read; below the watched folder.
      TAKEN = "taken"
      TAKING = ".being-taken"
      SOURCE = "the watched folder"
      # Things in a folder that are counted: more is too many in any case.
      LOOKED_AT = 3 * Actions::Deliver::MAX_FILES
      private_constant :LOOKED_AT, :DONE, :LONGEST, :TAKING, :SOURCE

      # One process looks at a time, whichever comes first.
      LOCK = 4_810_001

      class << self
        def root = File.join(Fobrel.var, "import")

        # @return [String] where deliveries for a library are laid
        def of(library)
          File.join(root, "#{Core::Package::FileName.plain(library.name).presence || "library"} #{library.id}")
        end

        # Looks for ever.
        def watch
          sizes = {}
          loop do
            sizes = look(sizes)
          rescue => e
            Watching::Log.trouble("The watched folder", e)
          ensure
            sleep EVERY
          end
        end

        # Takes what did not change since the last look.
        #
        # @param before [Hash{String => Array}] size and time of each file then
        # @return [Hash{String => Array}] the same now
        def look(before)
          Models::Record.connection_pool.with_connection do |connection|
            held = connection.select_value("SELECT pg_try_advisory_lock(#{LOCK})")
            return before unless held
            Models::Library.find_each.each_with_object({}) do |library, now|
              look_into(library, before, now)
            rescue => e
              Watching::Log.trouble("The watched folder of “#{library.name}”", e)
            end
          ensure
            connection.execute("SELECT pg_advisory_unlock(#{LOCK})") if held
          end
        end

        private

        def look_into(library, before, now)
          FileUtils.mkdir_p(of(library))
          tree = Core::Startup::Tree.new(of(library))
          # What a process left that ended in the middle.
          entries(tree, TAKING).each { |path|
            look_at(tree, path, before, now, settled: true) { import_brushes(library, tree, path) }
          }
          entries(tree).each { |path| look_at(tree, path, before, now) { take(library, tree, path) } }
        end

        # @return [Array<String>] what lies there and is no link, within the folder
        def entries(tree, folder = "")
          names = tree.children(folder).reject { |name| name == TAKEN || name.start_with?(".") }
          names.map { |name|
            [folder, name].reject(&:empty?).join("/")
          }.select { |path| %i[file folder].include?(tree.kind(path)) }
        end

        # What was dealt with is left alone until it is another.
        def look_at(tree, path, before, now, settled: false)
          key = File.join(tree.path, path)
          seen = before[key]
          now[key] = state(tree, path)
          return now[key] = seen if seen.is_a?(Array) && seen.first == DONE && seen.last == now[key]
          return unless settled || now[key] == seen
          now[key] = [DONE, now[key]]
          yield
          now.delete(key) unless tree.kind(path)
        rescue => e
          Watching::Log.trouble("The watched folder, #{key.inspect}, which is not tried again before it changes", e)
        end

        # One more than may come, so that too many are told.
        #
        # @return [Array<Core::Startup::Tree::Found>] files, and no links
        def files(tree, path)
          return [Core::Startup::Tree::Found.new(path, tree.stat(path))] unless tree.kind(path) == :folder
          tree.walk(path, most: LOOKED_AT).select { |one| one.stat.file? }
        end

        # Sizes and times by name, wherever the whole lies.
        def state(tree, path)
          files(tree, path).map { |one| [one.path.delete_prefix(path), one.stat.size, one.stat.mtime] }
        end

        def take(library, tree, path)
          trouble = too_much(tree, path) and return tell(library, tree, path, trouble)
          aside = free(tree, "#{TAKING}/#{File.basename(path)}")
          begin
            tree.make(TAKING)
            tree.rename(path, aside)
          rescue SystemCallError, Core::Startup::Tree::Foreign => e
            return tell(
              library,
              tree,
              path,
              "It cannot be moved out of the watched folder (#{e.message[/\A[^@]*/].strip.downcase}), so it was not " \
                "read. Give Fobrel the right to move it, or bring it by hand."
            )
          end
          import_brushes(library, tree, aside)
        end

        def too_much(tree, path)
          found = files(tree, path)
          size = found.sum { |one| one.stat.size }
          if found.size > Actions::Deliver::MAX_FILES
            return "It has more than #{Actions::Deliver::MAX_FILES} files. It was not read and lies where it was. " \
              "Pack it as one ZIP."
          end
          return if size <= Actions::Deliver::MAX_BYTES
          "It is #{size / 1024 / 1024} MB large, more than #{Actions::Deliver::MAX_BYTES / 1024 / 1024} MB. It was " \
            "not read and lies where it was. Bring it in smaller parts."
        end

        # Reads what lies aside, then puts it to what was taken.
        def import_brushes(library, tree, path)
          unless known?(library, tree, path)
            Models::Record.transaction(requires_new: true) do
              import = Models::Import.create!(library:, name: called(path), source: SOURCE, watched: sum(tree, path))
              files(tree, path).each { |one|
                name = plain(one.path.delete_prefix("#{File.dirname(path)}/"))
                tree.open_file(one.path) { |io| Actions::Deliver.add(import, name:, io:) }
              }
              Actions::Deliver.call(import:, person: nil)
            end
          end
          put_away(tree, path)
        rescue Core::Problem => e
          tell(library, tree, path, "#{e.message} The file lies in the folder “#{TAKEN}”.")
          put_away(tree, path)
        end

        def put_away(tree, path)
          tree.make(TAKEN)
          name = "#{Time.now.utc.strftime("%Y%m%d-%H%M%S")} #{File.basename(path)}".byteslice(0, LONGEST).scrub("")
          tree.rename(path, free(tree, "#{TAKEN}/#{name}"))
        end

        # Moving onto another file would be the end of that one.
        def free(tree, path)
          return path unless tree.kind(path)
          (2..).lazy.map { |number|
            File.join(File.dirname(path), "#{number} #{File.basename(path)}".byteslice(0, LONGEST).scrub(""))
          }.find { |name| !tree.kind(name) }
        end

        # An import that says why there is nothing to import.
        def tell(library, tree, path, sentence)
          return if known?(library, tree, path)
          Models::Record.transaction do
            import = Models::Import.create!(
              library:,
              name: called(path),
              source: SOURCE,
              watched: sum(tree, path),
              state: "planned"
            )
            import.items.create!(
              position: 0,
              kind: "unreadable",
              name: import.name,
              source: SOURCE,
              sentence:,
              version: 1
            )
          end
        end

        def known?(library, tree, path) = Models::Import.exists?(library:, watched: sum(tree, path))

        def sum(tree, path) = Core::Sum.of([File.basename(path).b, state(tree, path)].inspect)

        def called(path) = Core::Names.clean(plain(File.basename(path)))[0, 200].presence || "a file without a name"

        # Names of files are bytes.
        def plain(name) = name.dup.force_encoding(Encoding::UTF_8).scrub
      end
    end
  end
end
