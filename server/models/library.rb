# frozen_string_literal: true

module Fobrel
  module Models
    # One studio's or project's brushes.
    class Library < Record
      has_many :memberships
      has_many :presets
      has_many :tags
      has_many :brush_sets
      # Workplaces; what their plans begin from are its templates.
      has_many :desks, -> { workplaces }
      has_many :templates, -> { templates }, class_name: "Fobrel::Models::Desk"
      has_many :bundles
      has_many :categories
      has_many :statuses
      has_many :history_entries
      has_many :imports
      has_many :exports
      has_many :export_templates
      has_many :tasks
      has_many :works
      has_many :parts
      has_many :people, through: :memberships
      has_many :invitations
      has_many :proposals
      has_many :follows
      belongs_to :person, optional: true
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, presence: true
      validates :canvas_width, :canvas_height, numericality: {only_integer: true, in: 1..100_000}

      # What a library is for, in words.
      KINDS = {
        "project" => "the brushes of one project",
        "studio" => "the brushes of the whole studio",
        "stock" => "originals as they were received, which nobody changes",
        "personal" => "the brushes of one person"
      }.freeze
      # What is done to a library that only keeps.
      KEEPING = %i[look keep people].freeze
      validates :kind, inclusion: {in: KINDS.keys}
      validates :name, length: {maximum: 60}
      validates :description, length: {maximum: 2000}

      scope :in_use, -> { where(archived_at: nil) }

      # What can be done here by anybody: an archived library is only looked at, in one of originals nothing is
      # changed.
      #
      # @param deed [Symbol] see Membership
      def lets?(deed)
        return KEEPING.include?(deed) if archived_at
        return KEEPING.include?(deed) || deed == :bring if kind == "stock"
        true
      end

      # Lets only one at a time do what depends on all names here; whoever adds a label, a draft or anything
      # else that only points to the library is not held up (PostgreSQL 15, 13.3.2).
      def hold = lock!("FOR NO KEY UPDATE")

      # @return [Hash] width and height in px of what is painted on here
      def canvas = {"width" => canvas_width, "height" => canvas_height}

      # @param sides [Hash] as #canvas gives it
      def canvas=(sides)
        assign_attributes(canvas_width: sides["width"], canvas_height: sides["height"])
      end

      # @param references [Array<String>] "sha256:…"
      # @return [Array<String>] the sums of those that a version of a brush here needs
      def pictures_needed(references)
        sums = references.map { Core::Sum.in(_1) }
        Version.joins(:preset).joins("JOIN version_needs ON version_needs.version_id = versions.id")
          .where(presets: {library_id: id}, version_needs: {sha256: sums}).distinct.pluck("version_needs.sha256")
      end

      # @param sum [String] of a picture
      # @return [ActiveRecord::Relation<Preset>] the brushes here, as they are now, that need it
      def brushes_with(sum)
        presets.shown.joins("JOIN version_needs n ON n.version_id = presets.current_version_id").where(n: {sha256: sum})
      end

      # @return [Array<String>] of all presets, for finding the next number
      def preset_names = presets.pluck(:name)

      # Names that begin as one does, whatever number follows: all that matter for the next free one.
      #
      # @param name [String]
      # @return [Array<String>]
      def preset_names_like(name)
        stem = Core::Curation::Query.fold(Core::Curation::Numbering.stem(name))
        presets.where("plain_name LIKE ?", "#{Preset.sanitize_sql_like(stem)}%").pluck(:name)
      end
    end
  end
end
