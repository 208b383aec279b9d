# frozen_string_literal: true

module Fobrel
  module Backups
    # The folder of the nightly backups, and which of them stay: the last of each of the last seven days, four weeks and
    # twelve months that have one. Nothing else that lies there is touched, least of all what another studio left there:
    # whoever begins anew by mistake finds the backups of what was before.
    class Folder
      DAYS, WEEKS, MONTHS = 7, 4, 12
      NAME = /\Afobrel-(\h{8})-(\d{4}-\d\d-\d\dT\d{6}Z)\.fobrel-studio\.zip\z/
      # What a process that was ended left half written goes after so long, seconds.
      STALE = 24 * 3600
      private_constant :NAME, :STALE

      # Where FOBREL_BACKUPS says; better on another disk than the database's.
      #
      # @return [Folder]
      def self.here = new(ENV.fetch("FOBREL_BACKUPS") { File.join(Fobrel.var, "backups") }, Models::StudioBackup.studio)

      # @return [String]
      attr_reader :path

      # @param path [String]
      # @param studio [String] eight digits that tell it from others
      def initialize(path, studio)
        @path = path
        @studio = studio
      end

      # @param time [Time]
      # @return [String] what a backup of that moment is called here
      def name(time) = "fobrel-#{@studio}-#{time.utc.strftime("%Y-%m-%dT%H%M%SZ")}.fobrel-studio.zip"

      # @return [Hash{String => Time}] the studio's backups here, by name, the newest first
      def backups
        return {} unless File.directory?(path)
        Dir.children(path).select { _1[NAME, 1] == @studio }
          .to_h { |name| [name, Time.strptime(name[NAME, 2], "%Y-%m-%dT%H%M%S%z")] }
          .sort_by { |name, at| [-at.to_i, name] }.to_h
      end

      # @return [Array<String>] names of those that stay
      def staying
        all = backups
        [
          [DAYS, ->(at) { at.strftime("%F") }],
          [WEEKS, ->(at) { at.strftime("%G-%V") }],
          [MONTHS, ->(at) { at.strftime("%Y-%m") }]
        ].flat_map { |count, of| all.to_a.uniq { |_, at| of[at] }.first(count).map(&:first) }.uniq
      end

      # @return [Array<String>] names of those that were taken away
      def prune
        gone = backups.keys - staying
        gone.each { |name| FileUtils.rm_f([File.join(path, name), File.join(path, "#{name}.sha256")]) }
        Dir.glob("*.fobrel-studio.zip.part*", base: path).each do |name|
          left = File.join(path, name)
          File.delete(left) if Time.now - File.mtime(left) > STALE
        end
        gone
      end
    end
  end
end
