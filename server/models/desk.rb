# frozen_string_literal: true

module Fobrel
  module Models
    # One workplace with its start-up plan; or a template, which the plans of desks and of other templates begin from.
    # What is kept of a plan is how it differs from the one it begins from.
    class Desk < Record
      include Ordered

      PLATFORMS = ["", "Linux", "macOS", "Windows", "tablet"].freeze
      # So many starts are learned from.
      STARTS = 20
      # A desk elsewhere that has not been heard of for so long is out of reach.
      HEARD = 10.minutes
      DEEPEST = 5
      FOLDER = /\A[a-z0-9][a-z0-9-]{0,60}\z/
      Line = Core::Startup::Layers::Line

      belongs_to :library
      belongs_to :parent, class_name: "Fobrel::Models::Desk", optional: true
      belongs_to :person, optional: true
      has_many :children, class_name: "Fobrel::Models::Desk", foreign_key: :parent_id
      has_many :items, class_name: "Fobrel::Models::StartItem", dependent: :delete_all
      has_many :plans, class_name: "Fobrel::Models::DeskPlan", dependent: :destroy
      has_many :events, class_name: "Fobrel::Models::DeskEvent", dependent: :delete_all
      normalizes :name, :room, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..60}
      validates :room, length: {maximum: 60}
      validates :folder, format: FOLDER, uniqueness: true
      validates :platform, inclusion: {in: PLATFORMS}
      validates :key_count, numericality: {only_integer: true, in: 0..200}
      validates :memory_limit,
        :start_limit,
        :canvas_width,
        :canvas_height,
        numericality: {only_integer: true, in: 1..1_000_000},
        allow_nil: true
      validate :named_once, :begins_from_a_template

      scope :workplaces, -> { where(template: false) }
      scope :templates, -> { where(template: true) }
      scope :in_use, -> { where(put_aside_at: nil) }

      # @return [String] a folder's name that no desk has yet
      def self.free_folder(library, name)
        word = name.downcase.unicode_normalize(:nfkd).gsub(/[^a-z0-9]+/, "-").gsub(/\A-+|-+\z/, "")[0, 40]
        plain = "#{word}-#{library.id}".delete_prefix("-")
        taken = where("folder LIKE ?", "#{plain}%").pluck(:folder)
        [plain].chain((2..).lazy.map { "#{plain}-#{_1}" }).find { !taken.include?(_1) }
      end

      # @return [String] the desk's own folder; `startup` lies in it
      #
      # @raise [Core::Problem] where its folder would lie anywhere else
      def path
        raise Core::Problem, "#{name} has no folder of its own. Nothing was done." unless folder.match?(FOLDER)
        File.join(Fobrel.var, "desks", folder)
      end

      # --- its plan: lines and keys ----------------------------------------------------------------

      # @return [Array<Line>] with what it has from its template
      def lines = Core::Startup::Layers.apply(parent ? parent.lines : [], plan_changes)

      # @return [Hash{String => String}] from a brush's id to its key
      def key_of = (parent ? parent.key_of : {}).merge(own_keys).compact

      # @param wanted [Array<Line>]
      def lines=(wanted)
        self.plan_changes = Core::Startup::Layers.differences(parent ? parent.lines : [], wanted)
      end

      # @param wanted [Hash{String => String}]
      def key_of=(wanted)
        given = parent ? parent.key_of : {}
        own = wanted.reject { |id, key| given[id] == key }
        self.own_keys = own.merge((given.keys - wanted.keys).to_h { [_1, nil] })
      end

      # Single brushes in the order given; what else stands in the plan keeps its place.
      #
      # @param ids [Array<Integer>] presets
      def put_in_order(ids)
        things = library.presets.where(id: ids).pluck(:id, :document_id).to_h { |id, document|
          [id, "brush/#{document}"]
        }
        there = lines.to_h { [_1.thing, _1] }
        wanted = ids.filter_map { things[_1] }
        singles = wanted.map { |thing| there[thing] || Line.new(thing:, part: "startup") }
        gone = lines.select { |line| line.thing.start_with?("brush/") && !wanted.include?(line.thing) }
        queue = singles.dup
        kept = (lines - gone).map { |line| line.thing.start_with?("brush/") ? queue.shift : line }
        self.lines = kept + queue
        save!
        settle
      end

      # @return [Array<Integer>] presets that it names one by one
      def preset_ids_in_order
        documents = lines.filter_map { _1.thing[%r{\Abrush/(.+)\z}, 1] }
        ids = library.presets.where(document_id: documents).pluck(:document_id, :id).to_h
        documents.filter_map { ids[_1] }
      end

      # Works out anew which presets of its library it has, for what asks where a brush is used; below it too.
      def settle
        rows = Finding::StartupPlan.new(self).presets.map.with_index { |(preset_id, part), position|
          {desk_id: id, preset_id:, part:, position:}
        }
        if rows != items.order(:position).map {
          _1.attributes.slice("desk_id", "preset_id", "part", "position").symbolize_keys
        }
          items.delete_all
          items.insert_all!(rows) if rows.any?
        end
        children.each(&:settle)
      end

      # @return [Array<Desk>] templates it begins from, the nearest first
      def ancestors = parent ? [parent, *parent.ancestors] : []

      # @return [Array<Desk>] workplaces that begin from it, however far below
      def below = children.flat_map { |one| one.template ? one.below : [one] }

      # --- what it has ------------------------------------------------------------------------------

      # @return [DeskPlan, nil] what was sent last
      def handed = defined?(@handed) ? @handed : plans.order(number: :desc).first

      # What it had: the plan before the last one, what lay there at a moment, or as it was before Fobrel.
      #
      # @param to [String] "previous", "moment" or "before"
      # @param at [Time, nil] the moment
      # @return [DeskPlan, :before]
      # @raise [Core::Problem] where it has that now, or never had any
      def earlier(to, at = nil)
        newest = plans.order(number: :desc)
        last = newest.first or raise Core::Problem, "Nothing was sent to #{name} yet. Nothing was changed."
        found = {
          "previous" => -> { newest.second or raise Core::Problem, "#{name} had no plan before this one." },
          "moment" => -> { newest.where(created_at: ..at).first },
          "before" => -> {}
        }.fetch(to).call
        raise Core::Problem, "#{name} has that now." if found == last || (found.nil? && last.document["before"])
        found || :before
      end

      # Reads what was sent last to several desks in one go: their earlier plans stay where they are.
      #
      # @param desks [Array<Desk>]
      # @return [Array<Desk>] the same
      def self.with_sent(desks)
        last = DeskPlan.where(desk: desks).select("DISTINCT ON (desk_id) *").order(:desk_id, number: :desc)
        found = last.index_by(&:desk_id)
        desks.each { |desk| desk.instance_variable_set(:@handed, found[desk.id]) }
      end

      def reload(*)
        remove_instance_variable(:@handed) if defined?(@handed)
        super
      end

      # What would be handed out now.
      #
      # @return [Array<Hash>] id, version number and fingerprint of each preset, in order
      def planned = Finding::StartupPlan.new(self).planned

      # Notes what happened; the same again is not noted.
      def note(kind, said = "", person = nil)
        last = events.order(:id).last
        return if last && last.kind == kind && last.said == said
        events.create!(kind:, said:, person:)
      end

      private

      def named_once
        others = self.class.where(library_id:, template:).where.not(id:).named(name.to_s)
        return if others.none?
        errors.add(:base, "There is #{template ? "a template" : "a desk"} called “#{name}” already. Take another name")
      end

      def begins_from_a_template
        return unless parent
        if !parent.template || parent.library_id != library_id
          errors.add(:base, "A plan begins from a template of its own library")
        elsif parent == self || ancestors.include?(self) || ancestors.size >= DEEPEST
          errors.add(:base, "A template cannot begin from itself, nor from so many others")
        end
      rescue SystemStackError
        errors.add(:base, "A template cannot begin from itself")
      end
    end
  end
end
