# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # Brings a seat's folder to the plan that was handed out to it: fetches what is not here, writes a complete new
      # state beside the old one, and swaps one link. Cut off anywhere, the folder holds the old state or the new one,
      # and the next pull clears up. What it did not write it never changes: such files are carried along.
      #
      #   Agent.new("/home/tove/brushes", source).pull   # => Done(number: 7, swapped: true, fetched: 3, …)
      class Agent
        # Raised where nothing was done, with a sentence why.
        class Stopped < Problem; end
        # Raised by a source that does not answer: what is here stays, and is still looked at.
        class Away < Problem; end

        # So many states are kept, the newest with them.
        STATES = 5

        # `number` of the plan that is here now; `fetched` files and `bytes`; `drift` as it was found before; `carried`
        # what is not of the plan, and where it went where it had to move; `away` why the server did not answer.
        Done = Struct.new(:number, :swapped, :fetched, :bytes, :drift, :carried, :away, keyword_init: true)

        # @param path [String] the seat's folder; made where it is not there
        # @param source [#plan, #fetch] where plans come from:
        #   plan(etag) gives {etag:, plan:, kept:}, or nil where there is nothing newer than that, or raises Away;
        #   fetch(sum, from) yields pieces of a file from that byte on
        # @param step [#call] told of each step, for those who watch (specs cut it off there)
        def initialize(path, source, step: ->(_) {})
          @folder = Folder.new(path)
          @source = source
          @step = step
        end

        # @param repair [Boolean, Array<String>] whether what differs is put right, though the plan is the same; only
        #   these paths where they are named
        # @return [Done]
        # @raise [Stopped]
        def pull(repair: false)
          locked do
            tidy
            found = ask(whatever: repair)
            found = nil if found && Plan.mark(found[:plan]) == memory["held_over"]
            drift = Drift.of(@folder, kept: found&.fetch(:kept) || kept_here)
            same = found && Plan.mark(found[:plan]) == mark
            if found.nil? || (same && whole? && !(repair && drift&.any?))
              settled(found) if found
              return Done.new(number:, swapped: false, fetched: 0, bytes: 0, drift:, carried: {}, away: @away)
            end
            change(found, drift, same ? repair : true)
          end
        rescue Errno::ENOSPC, Errno::EDQUOT, Errno::EFBIG
          clear
          raise Stopped,
            "There is no room left where #{@folder.path} lies. What was there is there still. Make room, and try again."
        rescue Errno::EACCES, Errno::EROFS, Errno::EPERM => e
          clear
          raise Stopped,
            "#{@folder.path} cannot be written to (#{e.class.name.split("::").last}). Nothing was changed. " \
              "See who may write there."
        rescue Errno::ENOTDIR, Errno::EEXIST
          raise Stopped, "#{@folder.path} is no folder. Nothing was changed. Name another."
        end

        # Puts an earlier plan in place, or what was here before Fobrel, without asking anybody. It stays so until
        # another plan is handed out than the one that is left.
        #
        # @param number [Integer, nil] of a plan that is kept here; nil is before Fobrel
        # @return [Done]
        # @raise [Stopped]
        def back(number)
          locked do
            tidy
            left = memory["held_over"] || mark or
              raise Stopped, "Nothing was handed out here yet. Nothing was changed."
            plan = number ? earlier(number) : Plan.before(@folder.plan)
            drift = Drift.of(@folder)
            write(plan.except("kept"), plan.fetch("kept", []), true)
            remember({etag: nil, plan:, kept: plan.fetch("kept", [])}, "held_over" => left)
            Done.new(number: self.number, swapped: true, fetched: 0, bytes: 0, drift:, carried: @carried)
          end
        end

        # @return [Array<Hash>] "plan", "made_at", "by", "why" of those that are kept here, the newest first
        def kept_plans
          @folder.states.reverse.filter_map { |state| @folder.plan(state)&.slice("plan", "made_at", "by", "why") }.uniq
        end

        private

        attr_reader :folder

        def earlier(number)
          state = folder.states.reverse.find { folder.plan(_1)&.fetch("plan") == number }
          unless state
            raise Stopped,
              "Plan #{number} is not kept here any more. Nothing was changed. Hand it out again."
          end
          @pool = {}
          folder.scan.each_value { |one| pool(folder.place(one.path), one.sum) if one.sum }
          root = folder.own("states", state)
          Dir.glob("**/*", base: root).each { |name| pool(File.join(root, name)) }
          plan = folder.plan(state)
          lost = plan["files"].find { |_, file| !@pool.key?(file["sum"]) }
          if lost
            raise Stopped,
              "#{lost.first} of plan #{number} was altered here. Nothing was changed. Hand it out again."
          end
          plan
        end

        # Two agents on one folder would take each other's unfinished work for leavings.
        def locked
          FileUtils.mkdir_p(folder.own)
          File.open(folder.own("lock"), File::RDWR | File::CREAT, 0o644) do |file|
            unless file.flock(File::LOCK_EX | File::LOCK_NB)
              raise Stopped,
                "Another agent is at work in #{folder.path}. Nothing was changed. It will be done in a moment."
            end
            yield
          end
        end

        # What a pull that was cut off left behind.
        def tidy
          Dir.glob("#{glob(folder.own("states"))}/*.making").each { FileUtils.rm_rf(_1) }
          Dir.glob("#{glob(folder.own)}/{current.next,before.making}").each { FileUtils.rm_rf(_1) }
          Dir.glob("#{glob(folder.path)}/.fobrel-link-*").each { FileUtils.rm_rf(_1) }
          Dir.glob("#{glob(folder.own)}/*.next").each { FileUtils.rm_rf(_1) }
          current = folder.current
          # One that was finished, but never put in place; what it carried along lies in the one before.
          return folder.states.each { FileUtils.rm_rf(folder.own("states", _1)) if _1.to_i > current.to_i } if current
          # Somebody took the link away: what was carried along may lie nowhere else.
          last = folder.states.last
          File.symlink("states/#{last}", folder.own("current")) if last && !File.symlink?(folder.own("current"))
        end

        # After a failure there may be no room to note anything: only what is unfinished goes.
        def clear
          tidy
          FileUtils.rm_rf(folder.own("incoming"))
        rescue SystemCallError
          nil
        end

        def glob(path) = path.gsub(/[\[\]{}*?\\]/) { "\\#{_1}" }

        def number = folder.plan&.fetch("plan")

        def mark = Plan.mark(folder.plan)

        # Whether all names lead into the state.
        def whole? = Folder::ROOT.all? { |name| folder.linked?(name) } && File.directory?(folder.own("before"))

        def memory
          @memory ||= JSON.parse(File.read(folder.own("agent.json"), encoding: "UTF-8"))
        rescue SystemCallError, JSON::ParserError
          @memory = {}
        end

        def kept_here = memory.fetch("kept", [])

        # @param whatever [Object] whether the plan is wanted though it is the one that is here
        def ask(whatever:)
          etag = memory["etag"] if !whatever && whole? && memory["plan"] == mark
          found = @source.plan(etag) or return
          Plan.check(found[:plan])
          unless found[:kept].is_a?(Array) && found[:kept].all? { |one| one.is_a?(Hash) && one["path"].is_a?(String) }
            raise Problem, "What the server sent names no files to be left. Nothing was changed."
          end
          found
        rescue Away => e
          @away = e.message
          nil
        end

        # All of it is here: nothing that came is needed any more.
        def settled(found)
          remember(found)
          FileUtils.rm_rf(folder.own("incoming"))
        end

        def remember(found, more = {})
          said = {"etag" => found[:etag], "plan" => Plan.mark(found[:plan]), "kept" => found[:kept], **more}
          return if said == memory
          whole_file(folder.own("agent.json"), JSON.pretty_generate(said))
          @memory = said
        end

        def change(found, drift, repair)
          plan = found[:plan]
          keep_before
          adopt unless Folder::ROOT.all? { |name| folder.linked?(name) }
          @pool = {}
          folder.scan.each_value { |one| pool(folder.place(one.path), one.sum) if one.sum }
          fetched = fetch(plan)
          write(plan, found[:kept], repair)
          settled(found)
          Done.new(
            number:, swapped: true, fetched: fetched.size, bytes: fetched.sum, drift:, carried: @carried, away: nil
          )
        end

        # --- before the first change: a copy of everything, for ever ---------------------------------

        def keep_before
          return if File.directory?(folder.own("before"))
          making = folder.own("before.making")
          FileUtils.mkdir_p(making)
          (Dir.children(folder.path) - [Folder::OWN]).each { |name|
            FileUtils.cp_r(File.join(folder.path, name), making, preserve: true, dereference_root: false)
          }
          Dir.glob("**/*", File::FNM_DOTMATCH, base: making).each { |name| sync(File.join(making, name)) }
          @step.call("before")
          File.rename(making, folder.own("before"))
          sync(folder.own)
        end

        # --- what is not here is fetched -------------------------------------------------------------

        def pool(path, sum = nil)
          return unless File.file?(path) && !File.symlink?(path)
          @pool[sum || OpenSSL::Digest::SHA256.file(path).hexdigest] ||= path
        end

        # @return [Array<Integer>] bytes of each file that was fetched
        def fetch(plan)
          FileUtils.mkdir_p(folder.own("incoming"))
          wanted = plan["files"].values.uniq { _1["sum"] }.reject { @pool.key?(_1["sum"]) }
          known = wanted.map { _1["sum"] }
          (Dir.children(folder.own("incoming")) - known - known.map { "#{_1}.part" }).each { |name|
            FileUtils.rm_rf(folder.own("incoming", name))
          }
          wanted.map { |file| fetch_one(file["sum"], file["bytes"]) }
        end

        # Goes on where an earlier try was cut off. Nothing counts before its sum is right.
        def fetch_one(sum, bytes)
          done = folder.own("incoming", sum)
          part = "#{done}.part"
          had = File.file?(part) ? File.size(part) : 0
          had = 0 if had > bytes
          File.open(part, had.zero? ? "wb" : "ab") do |file|
            size = had
            unless size == bytes && size.positive?
              @source.fetch(sum, had) do |piece|
                size += piece.bytesize
                if size > bytes
                  File.delete(part)
                  raise Stopped, "The server sends more of a file than its plan says. Nothing of it was kept."
                end
                file.write(piece)
              end
            end
            file.fsync
          end
          check(part, sum, bytes)
          File.rename(part, done)
          @step.call("fetched")
          @pool[sum] = done
          bytes - had
        end

        def check(part, sum, bytes)
          size = File.size(part)
          # What came is kept for the next try: it goes on from there.
          raise Away, "The server stopped in the middle of a file." if size < bytes
          return if OpenSSL::Digest::SHA256.file(part).hexdigest == sum
          File.delete(part)
          raise Stopped, "The server sent a file that is not what its plan says. Nothing of it was kept. Pull again."
        end

        # --- a complete state, then one link ---------------------------------------------------------

        # Names in the root that do not lead into a state are made to, with what lies there: nobody sees a difference,
        # and from then on one link changes all of them.
        def adopt
          state(folder.plan) do |making|
            folder.scan.each_key { |path| copy(folder.place(path), making, path) }
          end
          Folder::ROOT.reject { folder.linked?(_1) }.each { |name| lead(name) }
          leavings
          sync(folder.path)
        end

        def write(plan, kept, repair)
          before = folder.scan
          carry = Carry.new(folder, plan, kept:, repair:)
          @carried = carry.call(before)
          made = state(plan.merge("kept" => kept)) { |making| lay(plan, carry, making) }
          late(before, plan, folder.own("states", made))
          (folder.states - [made]).reverse.drop(STATES - 1).each { FileUtils.rm_rf(folder.own("states", _1)) }
          @step.call("pruned")
        end

        # Makes a state beside the others, brings it to the disk, and puts it in place.
        #
        # @param plan [Hash, nil] what it is a state of
        # @return [String] its name
        def state(plan)
          name = format("%05d", (folder.states.map(&:to_i).max || 0) + 1)
          making = folder.own("states", "#{name}.making")
          FileUtils.mkdir_p([making, *Folder::FOLDERS.map { File.join(making, _1) }])
          yield making
          File.write(File.join(making, Folder::KEPT_PLAN), JSON.pretty_generate(plan)) if plan
          sync_all(making)
          File.rename(making, folder.own("states", name))
          sync(folder.own("states"))
          @step.call("written")
          File.symlink("states/#{name}", folder.own("current.next"))
          @step.call("link")
          File.rename(folder.own("current.next"), folder.own("current"))
          sync(folder.own)
          @step.call("swapped")
          name
        end

        # The plan's files, but for those that somebody decided to have otherwise; then what is carried along.
        def lay(plan, carry, making)
          plan["files"].each do |path, file|
            next if carry.instead.include?(path)
            copy(@pool.fetch(file["sum"]) { raise Stopped, "#{path} is not here any more. Pull again." }, making, path)
            @step.call("file")
          end
          carry.moves.each { |from, to| copy(folder.place(from), making, to) }
          lay_before(making) if plan["before"]
          return if carry.instead.include?(Plan::LISTING)
          File.write(File.join(making, Plan::LISTING), "#{JSON.pretty_generate(plan)}\n")
        end

        # What was here before Fobrel and is not here any more.
        def lay_before(making)
          Folder::FOLDERS.each do |name|
            root = folder.own("before", name)
            Dir.glob("**/*", File::FNM_DOTMATCH, base: root).sort.each do |rest|
              path = File.join(name, rest)
              at = File.join(root, rest)
              there = File.join(making, path)
              copy(at, making, path) if (File.file?(at) || File.symlink?(at)) && !File.exist?(there)
            end
          end
        end

        def copy(from, making, path)
          to = File.join(making, path)
          FileUtils.mkdir_p(File.dirname(to))
          if File.symlink?(from)
            File.symlink(File.readlink(from), to)
          else
            FileUtils.cp(from, to, preserve: true)
            File.chmod(0o644, to)
          end
        end

        # Folders that hand-outs left here before there was an agent; the copy of what was here before has them too.
        def leavings
          Dir.children(folder.path).grep(/\Astartup-\d{8}-\d+-[a-z0-9]+\z/).each do |name|
            at = File.join(folder.path, name)
            kept = File.exist?(folder.own("before", name))
            FileUtils.rm_rf(at) if kept && (Dir.children(at) - ["presets", "parts", Plan::LISTING]).empty?
          end
        end

        # A name in the root leads into the state. What stood there is in it already, and goes to what was replaced;
        # where the system can, the two change places in one step.
        def lead(name)
          at = File.join(folder.path, name)
          link = File.join(folder.path, ".fobrel-link-#{name.tr(" ", "-")}")
          File.symlink(folder.target(name), link)
          return File.rename(link, at) if File.file?(at) || File.symlink?(at) || !File.exist?(at)
          aside = folder.own("replaced", "#{Time.now.utc.strftime("%Y%m%dT%H%M%S")}-#{folder.current}")
          FileUtils.mkdir_p(aside)
          if Exchange.call(link, at)
            File.rename(link, File.join(aside, name))
          else
            File.rename(at, File.join(aside, name))
            File.rename(link, at)
          end
          @step.call("led")
          # It is in the state now; what somebody saved in this moment is kept.
          FileUtils.rm_rf(aside) if same?(File.join(aside, name), folder.own("current", name))
          FileUtils.rm_rf(folder.own("replaced")) if Dir.empty?(folder.own("replaced"))
        end

        def same?(old, new)
          names = Dir.glob("**/*", File::FNM_DOTMATCH, base: old)
          names.all? { |one|
            at = File.join(old, one)
            File.directory?(at) || File.symlink?(at) || FileUtils.identical?(at, File.join(new, one))
          }
        end

        # What somebody saved between the look and the swap lies in the old state: it comes after.
        def late(before, plan, finished)
          return unless (old = folder.states[-2])
          written = folder.plan(old)&.fetch("files") || {}
          Folder::FOLDERS.flat_map { |name| Dir.glob("#{name}/**/*", base: folder.own("states", old)) }.each do |path|
            at = folder.own("states", old, path)
            next unless File.file?(at) && !File.symlink?(at)
            known = before[path]
            next if known && known.changed == File.mtime(at).to_r && known.bytes == File.size(at)
            next if written[path] && OpenSSL::Digest::SHA256.file(at).hexdigest == written[path]["sum"]
            ours = plan["files"].key?(path) || written.key?(path)
            to = ours ? Carry.aside(path, finished) : path
            next if File.exist?(File.join(finished, to)) && FileUtils.identical?(at, File.join(finished, to))
            FileUtils.mkdir_p(File.dirname(File.join(finished, to)))
            FileUtils.cp(at, File.join(finished, to), preserve: true)
            @carried[path] = to
          end
        end

        # --- to the disk -----------------------------------------------------------------------------

        def whole_file(path, text)
          File.open("#{path}.next", "w") { |file| file.write(text) && file.fsync }
          File.rename("#{path}.next", path)
          sync(File.dirname(path))
        end

        def sync_all(root)
          Dir.glob("**/*", File::FNM_DOTMATCH, base: root).each { |name| sync(File.join(root, name)) }
          sync(root)
        end

        def sync(path)
          return if File.symlink?(path)
          File.open(path, &:fsync)
        rescue Errno::EINVAL, Errno::EBADF
          nil # a file system that keeps folders otherwise
        end
      end
    end
  end
end
