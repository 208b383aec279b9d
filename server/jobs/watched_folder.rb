# frozen_string_literal: true

module Fobrel
  module Jobs
    # A stand-in for a shared drive: what is laid into var/intake/<library>/ becomes an arrival.
    #
    # A file is looked at once it stopped growing. One that is too large is never read. The others are
    # moved aside first, and read from there: what cannot be moved is not read either. Whatever goes
    # wrong is told in the Intake, once for each file, and the next one is looked at.
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
      private_constant :DONE, :LONGEST, :TAKING, :SOURCE

      # One process looks at a time, whichever comes first.
      LOCK = 4_810_001

      class << self
        def root = File.join(Fobrel.var, "intake")

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
          folder = of(library)
          FileUtils.mkdir_p(folder)
          # What a process left that ended in the middle.
          entries(File.join(folder, TAKING)).each { |path|
            look_at(path, before, now, settled: true) {
              take_in(library, path)
            }
          }
          entries(folder).each { |path| look_at(path, before, now) { take(library, path) } }
        end

        def entries(folder)
          return [] unless File.directory?(folder)
          names = Dir.children(folder).sort.reject { _1 == TAKEN || _1.start_with?(".") }
          names.map { File.join(folder, _1) }.reject { File.symlink?(_1) }
        end

        # What was dealt with is left alone until it is another.
        def look_at(path, before, now, settled: false)
          seen = before[path]
          now[path] = state(path)
          return now[path] = seen if seen.is_a?(Array) && seen.first == DONE && seen.last == now[path]
          return unless settled || now[path] == seen
          now[path] = [DONE, now[path]]
          yield
          now.delete(path) unless File.exist?(path)
        rescue => e
          Watching::Log.trouble("The watched folder, #{path.inspect}, which is not tried again before it changes", e)
        end

        def files(path)
          File.directory?(path) ? Dir.glob("**/*", base: path).sort.map {
            File.join(path, _1)
          }.select { File.file?(_1) && !File.symlink?(_1) } : [path]
        end

        # Sizes and times by name, wherever the whole lies.
        def state(path) = files(path).map { |file| [file.delete_prefix(path), File.size(file), File.mtime(file)] }

        def take(library, path)
          trouble = too_much(path) and return tell(library, path, trouble)
          aside = free(File.join(File.dirname(path), TAKING, File.basename(path)))
          FileUtils.mkdir_p(File.dirname(aside))
          begin
            File.rename(path, aside)
          rescue SystemCallError => e
            return tell(
              library,
              path,
              "It cannot be moved out of the watched folder (#{e.message[/\A[^@]*/].strip.downcase}), so it was not " \
                "read. Give Fobrel the right to move it, or bring it by hand."
            )
          end
          take_in(library, aside)
        end

        def too_much(path)
          size = files(path).sum { File.size(_1) }
          if files(path).size > Actions::Deliver::MAX_FILES
            return "It has #{files(path).size} files, more than #{Actions::Deliver::MAX_FILES}. It was not read and " \
              "lies where it was. Pack it as one ZIP."
          end
          return if size <= Actions::Deliver::MAX_BYTES
          "It is #{size / 1024 / 1024} MB large, more than #{Actions::Deliver::MAX_BYTES / 1024 / 1024} MB. It was " \
            "not read and lies where it was. Bring it in smaller parts."
        end

        # Reads what lies aside, then puts it to what was taken.
        def take_in(library, path)
          unless known?(library, path)
            Models::Record.transaction(requires_new: true) do
              arrival = Models::Arrival.create!(library:, name: called(path), source: SOURCE, watched: sum(path))
              files(path).each { |file|
                File.open(file, "rb") { |io|
                  Actions::Deliver.add(arrival, name: plain(file.delete_prefix("#{File.dirname(path)}/")), io:)
                }
              }
              Actions::Deliver.call(arrival:, person: nil)
            end
          end
          put_away(path)
        rescue Core::Problem => e
          tell(library, path, "#{e.message} The file lies in the folder “#{TAKEN}”.")
          put_away(path)
        end

        def put_away(path)
          folder = File.dirname(path, 2)
          FileUtils.mkdir_p(File.join(folder, TAKEN))
          File.rename(
            path,
            free(
              File.join(
                folder,
                TAKEN,
                "#{Time.now.utc.strftime("%Y%m%d-%H%M%S")} #{File.basename(path)}".byteslice(0, LONGEST).scrub("")
              )
            )
          )
        end

        # Moving onto another file would be the end of that one.
        def free(path)
          return path unless File.exist?(path)
          (2..).lazy.map { |number|
            File.join(
              File.dirname(path),
              "#{number} #{File.basename(path)}".byteslice(0, LONGEST).scrub("")
            )
          }.find { !File.exist?(_1) }
        end

        # An arrival that says why there is nothing to take in.
        def tell(library, path, sentence)
          return if known?(library, path)
          Models::Record.transaction do
            arrival = Models::Arrival.create!(
              library:,
              name: called(path),
              source: SOURCE,
              watched: sum(path),
              state: "planned"
            )
            arrival.items.create!(
              position: 0,
              kind: "unreadable",
              name: arrival.name,
              source: SOURCE,
              sentence:,
              edition: 1
            )
          end
        end

        def known?(library, path) = Models::Arrival.exists?(library:, watched: sum(path))

        def sum(path) = Core::Sum.of([File.basename(path).b, state(path)].inspect)

        def called(path) = Core::Names.clean(plain(File.basename(path)))[0, 200].presence || "a file without a name"

        # Names of files are bytes.
        def plain(name) = name.dup.force_encoding(Encoding::UTF_8).scrub
      end
    end
  end
end
