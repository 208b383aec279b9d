# frozen_string_literal: true

module Fobrel
  module Actions
    # Posts a comment on a brush, a version, a release or a proposal, and tells whoever is named in it, made the thing
    # or has commented there.
    class Say < Action
      # @param about [String] a key of Models::Comment::ABOUT
      # @param thing [ActiveRecord::Base]
      # @param words [Hash] "text", "version", "x" and "y" (shares of the strip)
      def initialize(library:, person:, about:, thing:, words:)
        @library = library
        @person = person
        @about = about
        @thing = thing
        @words = words
      end

      # @return [Models::Comment]
      def call
        check_version
        said = Models::Comment.create!(
          library: @library,
          person: @person,
          about: @about,
          about_id: @thing.id,
          **@words.slice("text", "version", "x", "y").transform_keys(&:to_sym)
        )
        mentioned = said.mentioned
        tell(mentioned, "mention", "#{@person.name} names you, about #{called}: #{said.text}")
        tell(concerned - mentioned, "comment", "#{@person.name} about #{called}: #{said.text}")
        Models::Live.tell(what: "talk", library: @library.id, about: @about, id: @thing.id)
        said
      end

      private

      def check_version
        return unless @words["version"]
        known = @about == "preset" && @thing.versions.exists?(number: @words["version"])
        raise Core::Problem, "There is no version #{@words["version"]}. Nothing was said." unless known
      end

      def tell(people, kind, text)
        here = people & @library.people.here.to_a
        Models::Notice.tell(here, library: @library, kind:, text:, path:, except: @person)
      end

      # Who made it, and who spoke there before.
      def concerned
        spoke = Models::Comment.where(about: @about, about_id: @thing.id).includes(:person).map(&:person)
        made = (@about == "preset") ? @thing.current_version.person : @thing.person
        [*spoke, made].compact.uniq
      end

      def called
        case @about
        when "preset" then "“#{@thing.name}”"
        when "release" then "“#{@thing.bundle.name}” #{@thing.number}"
        else "a proposal by #{@thing.person.name}"
        end
      end

      def path
        case @about
        when "preset" then "/bench/#{@thing.id}"
        when "release" then "/bundles?bundle=#{@thing.bundle_id}"
        else "/sharing/proposals?proposal=#{@thing.id}"
        end
      end
    end
  end
end
