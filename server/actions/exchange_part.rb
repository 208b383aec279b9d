# frozen_string_literal: true

module Fobrel
  module Actions
    # Puts another part in a part's place, in every brush that has it, or in some: as this person's drafts.
    class ExchangePart < Deed
      # @param from [String] sum
      # @param to [String] sum
      # @param ids [Array<Integer>, nil] of the brushes; nil are all that have it
      def initialize(library:, person:, from:, to:, ids: nil)
        @library = library
        @person = person
        @from = Core::Sum.reference(from)
        @to = Core::Sum.reference(to)
        @ids = ids || library.brushes_with(from).ids
      end

      # @return [Models::HistoryEntry]
      # @raise [Core::Problem]
      def call
        raise Core::Problem, "Both are the same part. Nothing was changed." if @from == @to
        rows = RevisePresets.plan(library: @library, person: @person, ids: @ids) { |value| exchanged(value) }
        RevisePresets.new(library: @library, person: @person, rows:, as: "drafts", kind: nil, deed: nil).revise(changes)
        write_down(@library, @person, "exchange", "A part exchanged in #{brushes(rows.size)}, as drafts")
      end

      private

      def exchanged(value)
        document = value.to_h
        put = ->(one) { (one == @from) ? @to : one }
        tip = document["tip"]["form"]
        tip = tip.merge("frames" => tip["frames"].map(&put)) if tip["frames"]
        tip = in_place_of_lines(tip) if tip["asset"] == @from
        changed = document.merge("tip" => document["tip"].merge("form" => tip))
        surface = document["grain"]
        changed["grain"] = surface.merge("asset" => put[surface["asset"]]) if surface
        about = document["about"]
        changed["about"] = about.merge("picture" => put[about["picture"]]) if about&.key?("picture")
        (changed == document) ? value : Core::Preset::Preset[changed]
      end

      # Lines may give way to a picture.
      def in_place_of_lines(tip)
        svg = Models::Asset.where(sha256: Core::Sum.in(@to)).pick(:ext) == "svg"
        svg ? tip.merge("asset" => @to) : {"kind" => "picture", "frames" => [@to]}
      end
    end
  end
end
