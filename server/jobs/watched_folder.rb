# frozen_string_literal: true

module Fobrel
  module Jobs
    # A stand-in for a shared drive: what is laid into var/intake/<library>/ becomes an arrival.
    # A file is taken once it stopped growing, and is then moved to taken/ beside it.
    module WatchedFolder
      EVERY = 2
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
            folder = of(library)
            FileUtils.mkdir_p(folder)
            Dir.children(folder).sort.each do |name|
              path = File.join(folder, name)
              next if name == "taken" || name.start_with?(".") || File.symlink?(path)
              now[path] = state(path)
              take(library, path) if now[path] == before[path]
            end
          end
        ensure
          connection.execute("SELECT pg_advisory_unlock(#{LOCK})") if held
        end
      end

      # @api private
      def self.files(path) = File.directory?(path) ? Dir.glob("**/*", base: path).sort.map { File.join(path, _1) }.select { File.file?(_1) && !File.symlink?(_1) } : [path]

      def self.state(path) = files(path).map { |file| [file, File.size(file), File.mtime(file)] }
      private_class_method :state

      def self.take(library, path)
        name = File.basename(path).dup.force_encoding(Encoding::UTF_8).scrub[0, 200]
        Models::Record.transaction do
          arrival = Models::Arrival.create!(library:, name:, source: "the watched folder")
          files(path).each { |file| File.open(file, "rb") { |io| Actions::Deliver.add(arrival, name: file.delete_prefix("#{File.dirname(path)}/").dup.force_encoding(Encoding::UTF_8).scrub, io:) } }
          Actions::Deliver.call(arrival:, person: nil)
        end
        taken = File.join(File.dirname(path), "taken")
        FileUtils.mkdir_p(taken)
        FileUtils.mv(path, File.join(taken, "#{Time.now.utc.strftime("%Y%m%d-%H%M%S")} #{File.basename(path)}"))
      end
      private_class_method :take
    end
  end
end
