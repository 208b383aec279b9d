# frozen_string_literal: true

module Fobrel
  module Actions
    # Changes one of the settings of a library: the canvas it paints on, the keys that are taken, how long things are
    # kept.
    class SetUpLibrary < Deed
      # What each setting is called, and its columns.
      SETTINGS = {
        canvas: ["The canvas", %w[canvas_width canvas_height]],
        reserved_keys: ["The keys that the painting program keeps for itself", %w[reserved_keys]],
        storage: ["The storage rules", %w[storage]]
      }.freeze

      # @param setting [Symbol] a key of SETTINGS
      # @param value what it is from now on
      # @param said [String, nil] what of it is different, for the history
      def initialize(library:, person:, setting:, value:, said: nil)
        @library = library
        @person = person
        @setting = setting
        @value = value
        @said = said
      end

      # @return [Models::Library]
      def call
        called, columns = SETTINGS.fetch(@setting)
        changes.watch(Models::Library.where(id: @library), columns) { @library.update!(@setting => @value) }
        words = "#{called} changed#{": #{@said}" if @said}"
        write_down(@library, @person, "library", words) unless changes.empty?
        @library
      end
    end
  end
end
