# frozen_string_literal: true

module Fobrel
  module Models
    # A picture that came with an arrival, or a release that came with a backup, and is not kept
    # for good yet.
    class ArrivalPart < Record
      belongs_to :arrival

      scope :pictures, -> { where.not(ext: "zip") }

      # Answers the core's question for a picture while an arrival is only planned.
      Files = Struct.new(:arrival) do
        def fetch(reference, &missing)
          sha256 = Core::Sum.in(reference)
          RawColumn.get(
            "SELECT bytes FROM arrival_parts WHERE arrival_id = $1 AND sha256 = $2 AND ext <> 'zip'",
            arrival.id,
            sha256
          ) || Asset::Bytes.fetch(reference, &missing)
        end
      end
    end
  end
end
