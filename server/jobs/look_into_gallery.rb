# frozen_string_literal: true

module Fobrel
  module Jobs
    # Asks the external gallery what somebody wants to know of it.
    class LookIntoGallery < Que::Job
      self.priority = Queue::SHORT
      self.maximum_retry_count = 0

      def run(id) = Models::GalleryLook.where(answered_at: nil).find_by(id:)&.ask
    end
  end
end
