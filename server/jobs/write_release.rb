# frozen_string_literal: true

module Fobrel
  module Jobs
    # Releases a bundle whose strips have to be painted first; what would have been answered at once is answered in the
    # end.
    class WriteRelease < Job
      def self.needs(_about) = :send_to_desk

      private

      def work(about)
        bundle = @task.library.bundles.find(about["bundle"])
        release = Actions::Action.telling(progress) {
          Actions::ReleaseBundle.call(bundle:, person: @task.person, number: about["number"], notes: about["notes"])
        }
        @task.update!(about: about.merge("result" => Views::Bundles.release(release)))
        @task.finish("“#{bundle.name}” #{release.number} is released.")
      end
    end
  end
end
