# frozen_string_literal: true

module Fobrel
  module Jobs
    # A stand-in for a shared drive: what is laid into var/intake/<library>/ becomes an arrival.
    # A file is taken once it stopped growing, and is then moved to taken/ beside it.
    module WatchedFolder
      EVERY = 2
      # What stands before the state of a file that was dealt with.
      DONE = :done
      # A file's name may have this many bytes (ext4, and most others).
      LONGEST = 255
      private_constant :DONE, :LONGEST

      # One process looks at a time, whichever comes first.
      LOCK = 4_810_001

      def self.root = File.join(Fobrel.var, "intake")

      # @return [String] where deliveries for a library are laid
      def self.of(library) = File.join(root, "#{Core::Package::FileName.plain(library.name).presence || "library"} #{library.id}")

      # Looks for ever.
      def self.watch
        sizes = {}
        loop do
          sizes = look(sizes)
        rescue => e
          warn "The watched folder: #{e.class}: #{e.message}"
        ensure
          sleep EVERY
        end
      end

      # Takes what did not change since the last look.
      #
      # @param before [Hash{String => Array}] size and time of each file then
      # @return [Hash{String => Array}] the same now
      def self.look(before)
        Models::Record.connection_pool.with_connection do |connection|
          held = connection.select_value("SELECT pg_try_advisory_lock(#{LOCK})")
          return before unless held
          Models::Library.find_each.each_with_object({}) do |library, now|
            laid(library).each { |path| look_at(library, path, before, now) }
          rescue => e
            warn "The watched folder of “#{library.name}”: #{e.class}: #{e.message}"
          end
        ensure
          connection.execute("SELECT pg_advisory_unlock(#{LOCK})") if held
        end
      end

      def self.laid(library)
        folder = of(library)
        FileUtils.mkdir_p(folder)
        Dir.children(folder).sort.map { File.join(folder, _1) }.reject { |path| File.basename(path) == "taken" || File.basename(path).start_with?(".") || File.symlink?(path) }
      end
      private_class_method :laid

      # One that cannot be taken is told of once and left alone until it is another; so is one that was
      # taken but cannot be moved away. The others are looked at all the same.
      def self.look_at(library, path, before, now)
        seen = before[path]
        now[path] = state(path)
        return now[path] = seen if seen.is_a?(Array) && seen.first == DONE && seen.last == now[path]
        return unless now[path] == seen
        now[path] = [DONE, now[path]]
        take(library, path)
        now.delete(path) unless File.exist?(path)
      rescue => e
        warn "The watched folder, #{path.inspect}: #{e.class}: #{e.message}. It is not tried again before it changes."
      end
      private_class_method :look_at

      # @api private
      def self.files(path) = File.directory?(path) ? Dir.glob("**/*", base: path).sort.map { File.join(path, _1) }.select { File.file?(_1) && !File.symlink?(_1) } : [path]

      def self.state(path) = files(path).map { |file| [file, File.size(file), File.mtime(file)] }
      private_class_method :state

      def self.take(library, path)
        name = Core::Names.clean(File.basename(path).dup.force_encoding(Encoding::UTF_8))[0, 200].presence || "a file without a name"
        watched = OpenSSL::Digest::SHA256.hexdigest(state(path).inspect)
        return if Models::Arrival.exists?(library:, watched:)
        Models::Record.transaction do
          arrival = Models::Arrival.create!(library:, name:, source: "the watched folder", watched:)
          files(path).each { |file| File.open(file, "rb") { |io| Actions::Deliver.add(arrival, name: file.delete_prefix("#{File.dirname(path)}/").dup.force_encoding(Encoding::UTF_8).scrub, io:) } }
          Actions::Deliver.call(arrival:, person: nil)
        end
        taken = File.join(File.dirname(path), "taken")
        FileUtils.mkdir_p(taken)
        FileUtils.mv(path, File.join(taken, "#{Time.now.utc.strftime("%Y%m%d-%H%M%S")} #{File.basename(path)}".byteslice(0, LONGEST).scrub("")))
      end
      private_class_method :take
    end
  end
end
