# frozen_string_literal: true

module Fobrel
  module Actions
    # What is done to any number of brushes at once: the same whether it is answered at once or done as long work
    # because there are too many to wait for.
    module ForMany
      # `said` is what was asked for, as the contract has it; `words` what is told while it is done; `each` about how
      # long a brush takes, seconds (two cores of 2026, in a library of 100,000).
      Kind = Struct.new(:words, :each, :deed)
      # What is answered within so many seconds is waited for.
      SHORT = 2.0
      private_constant :Kind, :SHORT

      KINDS = {
        "tag" => Kind.new(
          "Tagging",
          0.0004,
          lambda do |here, said|
            TagPresets.call(**here, name: said["tag"], ids: said["preset_ids"], on: said.fetch("on", true))
          end
        ),
        "place" => Kind.new(
          "Sorting",
          0.0003,
          lambda do |here, said|
            places = {"category" => here[:library].categories, "status" => here[:library].statuses}
            kind, id = said.values_at("kind", "place")
            SortPresets.call(**here, ids: said["preset_ids"], kind:, place: id && places.fetch(kind).find(id))
          end
        ),
        "hide" => Kind.new(
          "Putting away", 0.0004, ->(here, said) { HidePresets.call(**here, ids: said["preset_ids"]) }
        ),
        "unhide" => Kind.new(
          "Bringing back", 0.0004, ->(here, said) { RestorePresets.call(**here, ids: said["preset_ids"]) }
        ),
        "destroy" => Kind.new(
          "Destroying", 0.001, ->(here, said) { DeletePresets.call(**here, ids: said["preset_ids"]) }
        ),
        "duplicate" => Kind.new(
          "Duplicating", 0.002, ->(here, said) { DuplicatePresets.call(**here, ids: said["preset_ids"]) }
        ),
        "rename" => Kind.new(
          "Renaming",
          0.002,
          ->(here, said) {
            RenamePresets.call(**here, ids: said["preset_ids"], rules: said["rules"])
          }
        ),
        "reset" => Kind.new(
          "Taking back",
          0.002,
          lambda do |here, said|
            ResetPresets.call(**here, ids: said["preset_ids"], to: said.fetch("to", "baseline"))
          end
        )
      }.freeze
      # What is taken back of the history, a thing that was touched.
      UNDO = 0.0008

      # @param kind [String] of KINDS
      # @param said [Hash]
      # @return [Models::HistoryEntry]
      def self.call(kind, library:, person:, said:) = KINDS.fetch(kind).deed.call({library:, person:}, said)

      # @param count [Integer] of brushes
      # @return [Boolean] whether one would wait too long for it
      def self.long?(each, count) = each * count > SHORT
    end
  end
end
