# frozen_string_literal: true

module Fobrel
  module Jobs
    # Paints the strips of new brushes, so that nobody waits for them on the Wall.
    class PaintStrips < Que::Job
      self.priority = 200
      self.maximum_retry_count = 1

      def run(ids)
        Models::Preset.where(id: ids).find_each do |preset|
          Models::Strip.png_for(preset.fingerprint, "wall") { preset.current_edition.value }
        rescue Core::Problem
          next # it says so where it is shown
        end
      end
    end
  end
end
