# frozen_string_literal: true

module Fobrel
  module Actions
    # From a picture to a brush in the library.
    class MakeBrush < Action
      # The preset a tip becomes before anybody tunes it.
      #
      # @param made [Core::Tip::Outside::Trial]
      # @return [Core::Preset::Preset]
      def self.preset(made, name:, author: "", size: 40, spacing: 0.25)
        Core::Preset::FromTip.build(name, {"kind" => "picture", "frames" => [made.asset]}, author:, size:, spacing:)
      end

      # @param made [Core::Tip::Outside::Trial]
      # @param size [Float] pixels
      # @param spacing [Float] share of the size
      def initialize(library:, person:, made:, name:, size:, spacing:)
        @library = library
        @person = person
        @made = made
        @name = Core::Names.clean(name)
        @shape = {size:, spacing:}
      end

      # @return [Models::Preset]
      def call
        raise Core::Problem, "A brush needs a name. Nothing was saved yet; your picture is still here." if @name.empty?
        if @library.presets.exists?(["lower(name) = ?", @name.downcase])
          free = Core::Curation::Numbering.next_name(@name, @library.preset_names)
          raise Core::Problem,
            "A brush called “#{@name}” is already here. Nothing was saved yet. Take another name, such as “#{free}”."
        end
        Models::Asset.keep(@made.png, "png")
        value = self.class.preset(@made, name: @name, author: @person.name, **@shape)
        CreatePreset.call(library: @library, value:, person: @person, note: "Made from a picture")
      end
    end
  end
end
