# frozen_string_literal: true

module Fobrel
  module Jobs
    # Brings a package of the external gallery into Import.
    class FetchFromGallery < Job
      def self.needs(_about) = :bring

      private

      def work(about)
        tell = progress
        file = Tempfile.new("fobrel-gallery", binmode: true).tap(&:unlink)
        found = gallery.download(about.fetch("id"), into: file) { |done, total, try|
          tell.call(done, total, "Downloading “#{about["title"]}”#{", try #{try}" if try > 1}")
        }
        Models::Record.transaction(requires_new: true) do
          import = Models::Import.create!(
            library: @task.library,
            person: @task.person,
            name: found["title"].to_s.strip[0, 150].presence || "A package",
            source: "the external gallery"
          )
          Actions::Deliver.add(
            import,
            name: "#{Core::Package::FileName.plain(found["title"].to_s).presence || "package"}.fobrel.zip",
            io: file
          )
          Actions::Deliver.call(import:, person: @task.person)
          @task.update!(about: about.merge("import" => import.id))
          @task.finish("“#{found["title"]}” is in Import.")
        end
      ensure
        file&.close
      end

      def gallery = Gallery::External.new(Models::GalleryToken.find_by!(person: @task.person).token)
    end
  end
end
