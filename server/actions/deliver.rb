# frozen_string_literal: true

module Fobrel
  module Actions
    # Begins to read an import whose files are all here.
    class Deliver < Action
      MAX_FILES = 5000
      MAX_BYTES = 1024 * 1024 * 1024

      # Keeps one file of an import that is not read yet; a second one of the same name under
      # the next number.
      #
      # @param name [String] its name or path
      # @param io [IO] binary
      # @return [Models::ImportFile]
      def self.add(import, name:, io:)
        unless import.state == "open"
          raise Core::Problem,
            "This import is closed. Nothing was kept of “#{name}”. Begin another."
        end
        if import.files.count >= MAX_FILES
          raise Core::Problem,
            "An import holds at most #{MAX_FILES} files. Nothing was kept of “#{name}”. Pack them as one ZIP."
        end
        Models::Record.transaction(requires_new: true) do
          import.files.create!(name: free(import, name[-400..] || name)).tap {
            _1.fill(io, most: MAX_BYTES - import.files.sum(:size))
          }
        end
      end

      def self.free(import, name)
        ending = File.extname(name)
        [name].chain(
          (2..).lazy.map {
            "#{name.delete_suffix(ending)} (#{_1})#{ending}"
          }
        ).find { !import.files.exists?(name: _1) }
      end
      private_class_method :free

      # @param import [Models::Import]
      # @param person [Models::Person, nil] nil when nobody brought it
      def initialize(import:, person:)
        @import = import
        @person = person
      end

      # @return [Models::Import]
      def call
        @import.lock!
        raise Core::Problem, "This import is read already." unless @import.state == "open"
        raise Core::Problem, "This import has no files. Choose some first." if @import.files.none?
        @import.update!(state: "reading")
        @import.update!(
          task: Jobs::ReadImport.begin(
            library: @import.library,
            person: @person,
            about: {"import" => @import.id},
            message: "Reading #{@import.name}"
          )
        )
        @import
      end
    end
  end
end
