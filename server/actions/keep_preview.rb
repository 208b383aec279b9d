# frozen_string_literal: true

module Fobrel
  module Actions
    # Lays a preview picture on a person's own shelf of parts, unless they see it there already.
    class KeepPreview < Action
      # @param png [String] of Core::Tip::Preview
      # @param name [String]
      def initialize(library:, person:, png:, name:)
        @library = library
        @person = person
        @png = png
        @name = name
      end

      # @return [Models::Part]
      def call
        sha256 = Models::Asset.keep(@png, "png")
        name = Core::Names.clean(@name)[0, 100].presence || "Preview picture"
        here = @library.parts.shown.seen_by(@person).find_by(sha256:)
        here || @library.parts.create!(person: @person, kind: "picture", name:, sha256:, ext: "png")
      end
    end
  end
end
