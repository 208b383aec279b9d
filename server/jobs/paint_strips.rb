# frozen_string_literal: true

module Fobrel
  module Jobs
    # Paints the strips of new brushes, so that nobody waits for them in the list.
    class PaintStrips < Que::Job
      self.priority = 200
      self.maximum_retry_count = 1

      # So many are painted at one go; then others may have their turn.
      PIECE = 40

      def run(ids)
        ids, rest = ids.first(PIECE), ids.drop(PIECE)
        self.class.enqueue(rest) if rest.any?
        Models::Preset.where(id: ids).find_each do |preset|
          Models::KeptStrip.png_for(preset.fingerprint, "list") { preset.current_version.value }
        rescue Core::Problem
          next # it says so where it is shown
        end
      end
    end
  end
end
