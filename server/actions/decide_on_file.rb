# frozen_string_literal: true

module Fobrel
  module Actions
    # Decides about something in a desk's folder that is not as planned: it may stay as it is now, or be the desk's own
    # from now on, or that decision is taken back; or a brush there is proposed to the library. Nothing in the folder is
    # changed by it.
    class DecideOnFile < Action
      DECISIONS = %w[leave own undo propose].freeze

      # @param desk [Models::Desk]
      # @param path [String] of what was found
      # @param decision [String] one of DECISIONS
      # @param sentence [String] why it is proposed
      def initialize(desk:, person:, path:, decision:, sentence: "")
        @desk = desk
        @person = person
        @path = path
        @decision = decision
        @sentence = sentence
      end

      # @return [Models::Proposal, nil]
      # @raise [Core::Problem]
      def call
        @desk.lock!
        @item = (@desk.found&.fetch("items", []) || []).find { _1["path"] == @path }
        unless @item || @decision == "undo"
          raise Core::Problem,
            "That is not there any more. Nothing was changed. Look again."
        end
        send(@decision)
      end

      private

      def leave = keep("sum" => @item["sum"] || "gone")

      def own = keep({})

      # By the brush where it is one: its file's name changes with its place.
      def keep(what)
        rest = others
        @desk.update!(left_alone: [*rest, {"path" => @path, "id" => @item["id"], **what}.compact])
        said = (@decision == "own") ? "is this desk's own" : "stays as it is"
        @desk.note("decided", "#{@item["name"] || @path} #{said}", @person)
        nil
      end

      def undo
        @desk.update!(left_alone: others)
        nil
      end

      def others
        @desk.left_alone.reject { |one| one["path"] == @path || (@item && one["id"] && one["id"] == @item["id"]) }
      end

      def propose
        document = @item["document"] or raise Core::Problem,
          "“#{@item["name"] || @path}” is not a brush that can be read, so it cannot be proposed. It stays where it is."
        value = Core::Preset::Preset[document]
        keep_parts(value)
        from = {
          library: @desk.library_id,
          library_name: "the desk #{@desk.name}",
          name: value.name,
          version: 1,
          fingerprint: value.fingerprint,
          draft: false
        }
        proposed = ProposeBrushes::Proposed.new(value, from)
        ProposeBrushes.call(library: @desk.library, person: @person, picked: [proposed], sentence: @sentence)
      end

      # What it paints with lies beside it, if it is not here anyway.
      def keep_parts(value)
        missing = value.needs.map { Core::Sum.in(_1) } - Models::Asset.where(
          sha256: value.needs.map { Core::Sum.in(_1) }
        ).pluck(:sha256)
        missing.each { |sum| keep_part(sum, value) }
      end

      def keep_part(sum, value)
        folder = Core::Startup::Folder.new(@desk.path)
        names = @desk.away ? [] : folder.tree.children(folder.place("parts"))
        path = names.find { |name| name.match?(/\A#{sum}\.(png|jpg|webp|tif|svg)\z/) }
        bytes = path && folder.read("parts/#{path}", most: Core::Tip::Picture::MAX_BYTES)
        unless bytes && Core::Sum.of(bytes) == sum
          raise Core::Problem,
            "A picture that “#{value.name}” needs is missing from the desk. Nothing was proposed. " \
              "Export it there as a package, and bring that to Import."
        end
        ext = File.extname(path).delete_prefix(".")
        Core::Apart.call((ext == "svg") ? Core::Tip::Vector : Core::Tip::Picture, :check, bytes, name: "Its picture")
        Models::Asset.keep(bytes, ext)
      end
    end
  end
end
