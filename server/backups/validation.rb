# frozen_string_literal: true

module Fobrel
  module Backups
    # Whether the rows of a studio that was just brought into the database are ones that the operations could have made.
    # A backup's own sums only say that it is as somebody wrote it: whoever writes one can write new sums beside new
    # rows.
    #
    #   Validation.call   # raises Core::Problem, which undoes the restore
    class Validation
      # Rows read at a time.
      SOME = 500
      # Problems that are told; one is enough to refuse.
      TOLD = 3
      ENDINGS = %w[png jpg webp tif tiff gif svg].freeze
      private_constant :SOME, :TOLD, :ENDINGS

      def self.call = new.call

      # @return [void]
      # @raise [Core::Problem]
      def call
        @problems = []
        records
        documents
        pictures
        plans
        releases
        return if @problems.empty?
        more = " and #{@problems.size - TOLD} more" if @problems.size > TOLD
        raise Core::Problem,
          "The backup holds what Fobrel would never have written: #{@problems.first(TOLD).join("; ")}#{more}. " \
            "Nothing of it was kept. Take another backup."
      end

      private

      def problem(what, why) = (@problems << "#{what}: #{why}"[0, 160])

      # Every model's own rules: names, folders, roles, looks, limits.
      def records
        models = Dir[File.join(ROOT, "server/models/*.rb")].map { |file|
          Models.const_get(File.basename(file, ".rb").camelize)
        }
        models.grep(Class).select { |one| one < Models::Record && one.table_exists? }.each do |model|
          next if model.validators.empty? && model._validate_callbacks.none?
          model.find_each(batch_size: SOME) do |row|
            problem("#{model.table_name} #{row.id}", row.errors.full_messages.first) unless row.valid?
            model.normalized_attributes.each do |name|
              given = row.public_send(name)
              next if given.nil? || model.normalize_value_for(name, given) == given
              problem("#{model.table_name} #{row.id}", "its #{name} is not written as names are")
            end
          end
        end
      end

      # A version's settings, held to the schema and to the fingerprint that they are found by.
      def documents
        Models::Version.find_each(batch_size: SOME) do |version|
          value = Core::Preset::Preset.restore(version.document)
          problem("version #{version.id}", "its fingerprint is another") unless value.fingerprint == version.fingerprint
        rescue Core::Problem => e
          problem("version #{version.id}", e.message)
        end
      end

      # Pictures are what their sum and ending say, and a shape neither runs nor loads anything.
      def pictures
        Models::Asset.select(:sha256, :ext).find_each(batch_size: SOME) do |asset|
          bytes = Models::Asset::Bytes.fetch(asset.sha256) { next }
          name = "picture #{asset.sha256[0, 12]}"
          next problem(name, "its sum is another") unless Core::Sum.of(bytes) == asset.sha256
          next problem(name, "it is not a kind of picture (#{asset.ext})") unless ENDINGS.include?(asset.ext)
          (asset.ext == "svg") ? shape(bytes, name) : kind(bytes, name)
        end
      end

      def shape(bytes, name)
        Core::Tip::Outside.check_shape(bytes, name:)
      rescue Core::Problem => e
        problem(name, e.message)
      end

      def kind(bytes, name)
        problem(name, "it is not a picture") unless Core::Tip::Picture.kind(bytes)
      end

      # What an agent will be given to write into a folder.
      def plans
        Models::DeskPlan.find_each(batch_size: SOME) do |plan|
          Core::Startup::Plan.check(plan.document) unless plan.document["before"]
        rescue Core::Problem => e
          problem("start-up plan #{plan.id}", e.message)
        end
        Models::Record.connection.select_values("SELECT sum FROM sent_files").each do |sum|
          bytes = Models::DeskPlan.bytes(sum)
          problem("file #{sum[0, 12]}", "its sum is another") unless Core::Sum.of(bytes) == sum
        end
      end

      def releases
        Models::Release.listed.find_each(batch_size: SOME) do |release|
          bytes = Models::Release::Packed.new(release.id, 0).bytes
          problem("release #{release.id}", "its sum is another") unless Core::Sum.of(bytes) == release.sha256
        end
      end
    end
  end
end
