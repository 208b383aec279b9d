# frozen_string_literal: true

module Fobrel
  module Models
    # A picture that came with an arrival and is not kept for good yet.
    class ArrivalPart < Record
      belongs_to :arrival

      # Answers the core's question for a picture while an arrival is only planned.
      Files = Struct.new(:arrival) do
        def fetch(reference, &missing)
          sha256 = reference.delete_prefix("sha256:")
          ArrivalPart.where(arrival:, sha256:).pick(:bytes) || Asset::Bytes.fetch(reference, &missing)
        end
      end
    end
  end
end
