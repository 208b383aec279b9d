# frozen_string_literal: true

module Fobrel
  module Actions
    # Renames or describes a library, archives or restores it.
    class DescribeLibrary < Deed
      # @param wish [Hash] "name", "description", "archived"
      def initialize(library:, person:, wish:)
        @library = library
        @person = person
        @wish = wish
      end

      # @return [Models::HistoryEntry]
      def call
        before = @library.name
        changes.watch(Models::Library.where(id: @library), %w[name description archived_at]) do
          @library.update!(
            name: @wish.fetch("name", before),
            description: @wish.fetch("description", @library.description),
            archived_at: @wish.key?("archived") ? (Time.current if @wish["archived"]) : @library.archived_at
          )
        end
        write_down(@library, @person, "library", said(before))
      end

      private

      def said(before)
        return "“#{@library.name}” put into the archive" if @wish["archived"]
        return "“#{@library.name}” restored from the archive" if @wish.key?("archived")
        (before == @library.name) ? "“#{before}” described anew" : "“#{before}” renamed to “#{@library.name}”"
      end
    end
  end
end
