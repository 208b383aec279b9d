# frozen_string_literal: true

module Fobrel
  module Jobs
    # Publishes a release of a bundle to the external gallery.
    class PublishToGallery < Job
      private

      def work(about)
        tell = progress
        release = Models::Release.find(about.fetch("release"))
        words = about.slice("title", "description", "tags").merge("author" => release.words["author"].to_s)
        Gallery::External.new(Models::GalleryToken.find_by!(person: @task.person).token)
          .offer(StringIO.new(release.package), words, sha256: release.sha256) { |done, total, try|
          tell.call(
            done,
            total,
            "Publishing “#{about["title"]}”#{", try #{try}" if try > 1}"
          )
        }
        Actions::NoteExport.call(
          library: @task.library,
          person: @task.person,
          release:,
          kind: "package",
          name: "#{release.words["name"]} #{release.number}",
          file: "#{about["title"]}.fobrel.zip",
          goes_to: "the external gallery",
          wish: {"release" => release.id},
          count: release.items.size,
          size: release.package.bytesize,
          sha256: release.sha256
        )
        @task.finish("“#{about["title"]}” lies in the external gallery.")
      end
    end
  end
end
