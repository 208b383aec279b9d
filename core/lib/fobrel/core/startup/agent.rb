# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # Brings a desk's folder to the plan that was sent to it: fetches what is not here, writes a complete new
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

        # @param path [String] the desk's folder; made where it is not there
        # @param source [#plan, #fetch] where plans come from:
        #   plan(etag) gives {etag:, plan:, kept:}, or nil where there is nothing newer than that, or raises Away;
        #   fetch(sum, from) yields pieces of a file from that byte on
        # @param step [#call] told of each step, for those who watch (specs cut it off there)
        # @param patience [Numeric] seconds to wait for another agent that is at work in the folder
        def initialize(path, source, step: ->(_) {}, patience: 0)
          @folder = Folder.new(path)
          @source = source
          @step = step
          @patience = patience
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
            "There is no room left where the folder #{folder.name} lies. What was there is there still. Make room, " \
              "and try again."
        rescue Errno::EACCES, Errno::EROFS, Errno::EPERM => e
          clear
          raise Stopped,
            "The folder #{folder.name} cannot be written to (#{e.class.name.split("::").last}). Nothing was changed. " \
              "See who may write there."
        rescue Errno::ENOTDIR, Errno::EEXIST
          raise Stopped, "#{folder.name} is not a folder. Nothing was changed. Name another."
        end

        # Puts an earlier plan in place, or what was here before Fobrel, without asking anybody. It stays so until
        # another plan is sent than the one that is left.
        #
        # @param number [Integer, nil] of a plan that is kept here; nil is before Fobrel
        # @return [Done]
        # @raise [Stopped]
        def back(number)
          locked do
            tidy
            left = memory["held_over"] || mark or
              raise Stopped, "Nothing was sent here yet. Nothing was changed."
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

        def tree = folder.tree

        def earlier(number)
          state = folder.states.reverse.find { folder.plan(_1)&.fetch("plan") == number }
          unless state
            raise Stopped,
              "Plan #{number} is no longer kept here. Nothing was changed. Send it again."
          end
          @pool = {}
          folder.scan.each_value { |one| pool(folder.place(one.path), one.sum) if one.sum }
          tree.walk(folder.own("states", state), most: Plan::FILES + Folder::MOST).each { |one| pool(one.path) }
          plan = folder.plan(state)
          lost = plan["files"].find { |_, file| !@pool.key?(file["sum"]) }
          if lost
            raise Stopped,
              "#{lost.first} of plan #{number} was altered here. Nothing was changed. Send it again."
          end
          plan
        end

        # Two agents on one folder would take each other's unfinished work for leavings.
        def locked
          FileUtils.mkdir_p(folder.path)
          tree.make(Folder::OWN)
          tree.locked(folder.own("lock"), patience: @patience) do |lock|
            unless lock
              raise Stopped,
                "Another agent is at work in #{folder.name}. Nothing was changed. It will be done in a moment."
            end
            return yield
          end
        rescue Tree::Foreign => e
          raise Stopped,
            "#{e.message} Fobrel follows no links in a desk's folder. Nothing more was changed. Take it away."
        end

        # What a pull that was cut off left behind.
        def tidy
          tree.children(folder.own("states")).grep(/\.making\z/).each { |name| tree.remove(folder.own("states", name)) }
          tree.children(Folder::OWN).grep(/\A(before\.making|.*\.next)\z/).each { |name| tree.remove(folder.own(name)) }
          tree.children.grep(/\A\.fobrel-link-/).each { |name| tree.remove(name) }
          current = folder.current
          # One that was finished, but never put in place; what it carried along lies in the one before.
          if current
            return folder.states.each { |one|
              tree.remove(folder.own("states", one)) if one.to_i > current.to_i
            }
          end
          # Somebody took the link away: what was carried along may lie nowhere else.
          last = folder.states.last
          tree.link("states/#{last}", folder.own("current")) if last && tree.kind(folder.own("current")).nil?
        end

        # After a failure there may be no room to note anything: only what is unfinished goes.
        def clear
          tidy
          tree.remove(folder.own("incoming"))
        rescue SystemCallError, Tree::Foreign
          nil
        end

        def number = folder.plan&.fetch("plan")

        def mark = Plan.mark(folder.plan)

        # Whether all names lead into the state.
        def whole? = Folder::ROOT.all? { |name| folder.linked?(name) } && tree.kind(folder.own("before")) == :folder

        def memory
          @memory ||= begin
            said = JSON.parse(tree.read(folder.own("agent.json"), most: Plan::LARGEST).force_encoding("UTF-8"))
            said.is_a?(Hash) ? said : {}
          end
        rescue SystemCallError, Problem, JSON::ParserError, EncodingError
          @memory = {}
        end

        def kept_here = Array(memory["kept"]).grep(Hash)

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
          tree.remove(folder.own("incoming"))
        end

        def remember(found, more = {})
          said = {"etag" => found[:etag], "plan" => Plan.mark(found[:plan]), "kept" => found[:kept], **more}
          return if said == memory
          tree.write(folder.own("agent.json"), JSON.pretty_generate(said), mode: Tree::PRIVATE)
          tree.sync(Folder::OWN)
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
          return if tree.kind(folder.own("before")) == :folder
          making = folder.own("before.making")
          tree.make(making, mode: Tree::PRIVATE_FOLDER)
          (tree.children - [Folder::OWN]).each { |name| tree.copy_all(name, "#{making}/#{name}") }
          tree.sync_all(making)
          @step.call("before")
          tree.rename(making, folder.own("before"))
          tree.sync(Folder::OWN)
        end

        # --- what is not here is fetched -------------------------------------------------------------

        def pool(path, sum = nil)
          return unless tree.kind(path) == :file
          @pool[sum || tree.sum(path)] ||= path
        end

        # @return [Array<Integer>] bytes of each file that was fetched
        def fetch(plan)
          tree.make(folder.own("incoming"), mode: Tree::PRIVATE_FOLDER)
          wanted = plan["files"].values.uniq { _1["sum"] }.reject { @pool.key?(_1["sum"]) }
          known = wanted.map { _1["sum"] }
          (tree.children(folder.own("incoming")) - known - known.map { "#{_1}.part" }).each { |name|
            tree.remove(folder.own("incoming", name))
          }
          wanted.map { |file| fetch_one(file["sum"], file["bytes"]) }
        end

        # Goes on where an earlier try was cut off. Nothing counts before its sum is right.
        def fetch_one(sum, bytes)
          done = folder.own("incoming", sum)
          part = "#{done}.part"
          had = begun(part, bytes)
          tree.append(part) do |file|
            size = had
            unless size == bytes && size.positive?
              @source.fetch(sum, had) do |piece|
                size += piece.bytesize
                if size > bytes
                  tree.remove(part)
                  raise Stopped, "The server sends more of a file than its plan says. Nothing of it was kept."
                end
                file.write(piece)
              end
            end
          end
          check(part, sum, bytes)
          tree.rename(part, done)
          @step.call("fetched")
          @pool[sum] = done
          bytes - had
        end

        # @return [Integer] bytes of it that are here already; a part that is not as we left one begins anew
        def begun(part, bytes)
          stat = tree.stat(part)
          return stat.size if stat&.file? && stat.nlink == 1 && stat.size <= bytes
          tree.remove(part)
          tree.write(part, "", mode: Tree::PRIVATE)
          0
        end

        def check(part, sum, bytes)
          size = tree.stat(part)&.size.to_i
          # What came is kept for the next try: it goes on from there.
          raise Away, "The server stopped in the middle of a file." if size < bytes
          return if tree.sum(part) == sum
          tree.remove(part)
          raise Stopped, "The server sent a file that is not what its plan says. Nothing of it was kept. Pull again."
        end

        # --- a complete state, then one link ---------------------------------------------------------

        # Names in the root that do not lead into a state are made to, with what lies there: nobody sees a difference,
        # and from then on one link changes all of them.
        def adopt
          state(folder.plan) do |making|
            folder.scan.each { |path, one|
              copy(folder.place(path), making, path) unless one.link && !path.include?("/")
            }
          end
          Folder::ROOT.reject { folder.linked?(_1) }.each { |name| lead(name) }
          tree.sync
        end

        def write(plan, kept, repair)
          before = folder.scan
          carry = Carry.new(folder, plan, kept:, repair:)
          @carried = carry.call(before)
          made = state(plan.merge("kept" => kept)) { |making| lay(plan, carry, making) }
          late(before, plan, folder.own("states", made))
          (folder.states - [made]).reverse.drop(STATES - 1).each { |one| tree.remove(folder.own("states", one)) }
          @step.call("pruned")
        end

        # Makes a state beside the others, brings it to the disk, and puts it in place.
        #
        # @param plan [Hash, nil] what it is a state of
        # @return [String] its name
        def state(plan)
          name = format("%05d", (folder.states.map(&:to_i).max || 0) + 1)
          making = folder.own("states", "#{name}.making")
          tree.make(folder.own("states"))
          [making, *Folder::FOLDERS.map { |one| "#{making}/#{one}" }].each { |one| tree.make(one) }
          yield making
          tree.write("#{making}/#{Folder::KEPT_PLAN}", JSON.pretty_generate(plan), mode: Tree::SHARED) if plan
          tree.sync_all(making)
          tree.rename(making, folder.own("states", name))
          tree.sync(folder.own("states"))
          @step.call("written")
          tree.link("states/#{name}", folder.own("current.next"))
          @step.call("link")
          tree.rename(folder.own("current.next"), folder.own("current"))
          tree.sync(Folder::OWN)
          @step.call("swapped")
          name
        end

        # The plan's files, but for those that somebody decided to have otherwise; then what is carried along.
        def lay(plan, carry, making)
          plan["files"].each do |path, file|
            next if carry.instead.include?(path)
            from = @pool.fetch(file["sum"]) { raise Stopped, "#{path} is not here any more. Pull again." }
            copy(from, making, path, mode: Tree::SHARED)
            @step.call("file")
          end
          carry.moves.each { |from, to| copy(folder.place(from), making, to) }
          lay_before(making) if plan["before"]
          return if carry.instead.include?(Plan::LISTING)
          tree.write("#{making}/#{Plan::LISTING}", "#{JSON.pretty_generate(plan)}\n", mode: Tree::SHARED)
        end

        # What was here before Fobrel and is not here any more.
        def lay_before(making)
          Folder::FOLDERS.each do |name|
            root = folder.own("before", name)
            tree.walk(root, most: Plan::FILES + Folder::MOST).each do |one|
              path = "#{name}#{one.path.delete_prefix(root)}"
              copy(one.path, making, path) if tree.kind("#{making}/#{path}").nil?
            end
          end
        end

        # What the plan brings is for whoever paints; what is somebody's own keeps its mode.
        def copy(from, making, path, mode: nil)
          tree.make(File.dirname("#{making}/#{path}"))
          tree.copy(from, "#{making}/#{path}", mode:)
        end

        # A name in the root leads into the state. What stood there is in it already, and goes to what was replaced;
        # where the system can, the two change places in one step. A link that leads elsewhere is put aside as it is.
        def lead(name)
          link = ".fobrel-link-#{name.tr(" ", "-")}"
          tree.link(folder.target(name), link)
          return tree.rename(link, name) unless %i[folder link].include?(tree.kind(name))
          aside = folder.own("replaced", "#{Time.now.utc.strftime("%Y%m%dT%H%M%S")}-#{folder.current}")
          tree.make(aside, mode: Tree::PRIVATE_FOLDER)
          if tree.exchange(link, name)
            tree.rename(link, "#{aside}/#{name}")
          else
            tree.rename(name, "#{aside}/#{name}")
            tree.rename(link, name)
          end
          @step.call("led")
          # It is in the state now; what somebody saved in this moment is kept.
          tree.remove(aside) if same?("#{aside}/#{name}", folder.own("states", folder.current, name))
          tree.remove(folder.own("replaced")) if tree.children(folder.own("replaced")).empty?
        end

        def same?(old, new)
          return false if tree.kind(old) == :link
          tree.walk(old, most: Plan::FILES + Folder::MOST).all? { |one|
            one.stat.symlink? || tree.same?(one.path, "#{new}#{one.path.delete_prefix(old)}")
          }
        end

        # What somebody saved between the look and the swap lies in the old state: it comes after.
        def late(before, plan, finished)
          return unless (old = folder.states[-2])
          written = folder.plan(old)&.fetch("files") || {}
          root = folder.own("states", old)
          found = Folder::FOLDERS.flat_map { |name| tree.walk("#{root}/#{name}", most: Plan::FILES + Folder::MOST) }
          found.select { |one| one.stat.file? }.each do |one|
            path = one.path.delete_prefix("#{root}/")
            next if unchanged?(one, before[path], written[path])
            carry(one.path, path, finished, ours: plan["files"].key?(path) || written.key?(path))
          end
        end

        # @param known [Object, nil] what was seen of the file before the swap
        # @param written [Hash, nil] what the old plan says of it
        def unchanged?(file, known, written)
          return true if known && known.changed == file.stat.mtime.to_r && known.bytes == file.stat.size
          !written.nil? && tree.sum(file.path) == written["sum"]
        end

        # @param ours [Boolean] whether a plan writes this path, so that a user's file needs another name
        def carry(from, path, finished, ours:)
          to = ours ? Carry.aside(path, ->(name) { tree.kind("#{finished}/#{name}") }) : path
          return if tree.same?(from, "#{finished}/#{to}")
          tree.make(File.dirname("#{finished}/#{to}"))
          tree.copy(from, "#{finished}/#{to}")
          @carried[path] = to
        end
      end
    end
  end
end
