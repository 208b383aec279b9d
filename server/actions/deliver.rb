# frozen_string_literal: true

module Fobrel
  module Actions
    # Begins to read an arrival whose files are all here.
    class Deliver < Action
      MAX_FILES = 5000
      MAX_BYTES = 1024 * 1024 * 1024

      # Keeps one file of an arrival that is not read yet; a second one of the same name under
      # the next number.
      #
      # @param name [String] its name or path
      # @param io [IO] binary
      # @return [Models::ArrivalFile]
      def self.add(arrival, name:, io:)
        unless arrival.state == "open"
          raise Core::Problem,
            "This import is closed. Nothing was kept of “#{name}”. Begin another."
        end
        if arrival.files.count >= MAX_FILES
          raise Core::Problem,
            "An import holds at most #{MAX_FILES} files. Nothing was kept of “#{name}”. Pack them as one ZIP."
        end
        Models::Record.transaction(requires_new: true) do
          arrival.files.create!(name: free(arrival, name[-400..] || name)).tap {
            _1.fill(io, most: MAX_BYTES - arrival.files.sum(:size))
          }
        end
      end

      def self.free(arrival, name)
        ending = File.extname(name)
        [name].chain(
          (2..).lazy.map {
            "#{name.delete_suffix(ending)} (#{_1})#{ending}"
          }
        ).find { !arrival.files.exists?(name: _1) }
      end
      private_class_method :free

      # @param arrival [Models::Arrival]
      # @param person [Models::Person, nil] nil when nobody brought it
      def initialize(arrival:, person:)
        @arrival = arrival
        @person = person
      end

      # @return [Models::Arrival]
      def call
        @arrival.lock!
        raise Core::Problem, "This import is read already." unless @arrival.state == "open"
        raise Core::Problem, "This import has no files. Choose some first." if @arrival.files.none?
        @arrival.update!(state: "reading")
        @arrival.update!(
          task: Jobs::ReadArrival.begin(
            library: @arrival.library,
            person: @person,
            about: {"arrival" => @arrival.id},
            message: "Reading #{@arrival.name}"
          )
        )
        @arrival
      end
    end
  end
end
