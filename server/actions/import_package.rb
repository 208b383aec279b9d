# frozen_string_literal: true

module Fobrel
  module Actions
    # Takes a package into a library: what is there already is recognised by its content and
    # skipped, nothing that was there is touched, and the whole import can be undone.
    class ImportPackage < Action
      # @param bundle [Core::Package::Bundle]
      # @param file [String] what the package was called
      def initialize(library:, person:, bundle:, file:)
        @library = library
        @person = person
        @bundle = bundle
        @file = file
        @undo = {"presets" => [], "sets" => [], "set_items" => [], "taggings" => []}
      end

      # What would happen, item by item, without changing anything.
      #
      # @return [Array<Hash>] {preset:, does: "new" | "identical" | "renamed", name:}; an identical one
      #   names the brush here (known:) or the one that comes with it (twin:, its id)
      def plan
        taken = @library.preset_names
        names = taken.map(&:downcase).to_set
        known = known_by_fingerprint
        documents = @library.presets.pluck(:document_id).to_set
        coming = {}
        @bundle.presets.map do |preset|
          fingerprint = preset.fingerprint
          next {preset:, does: "identical", name: known[fingerprint].name, known: known[fingerprint]} if known[fingerprint]
          next {preset:, does: "identical", name: coming[fingerprint][:name], twin: coming[fingerprint][:preset].id} if coming[fingerprint]
          clash = names.include?(preset.name.downcase)
          name = clash ? Core::Curation::Numbering.next_name(preset.name, taken) : preset.name
          names << name.downcase
          taken << name
          coming[fingerprint] = {preset:, does: clash ? "renamed" : "new", name:, fresh_id: documents.include?(preset.id)}
        end
      end

      # @return [Hash] {entry: Models::LedgerEntry or nil, items: as #plan}
      def call
        @library.lock!
        @bundle.assets.each_value { Models::Asset.keep(_1.bytes, _1.ext) }
        items = plan
        here = items.each_with_object({}) { |item, ids| ids[item[:preset].id] = ids[item[:twin]] || (item[:known] || create(item)).id }
        fill_sets(here)
        hang_tags(items, here)
        {items:, entry: changed? ? write_down(@library, @person, "import", summary(items), @undo) : nil}
      end

      private

      def known_by_fingerprint
        Models::Edition.joins(:preset).includes(:preset).where(presets: {library_id: @library.id}, fingerprint: @bundle.presets.map(&:fingerprint))
          .order(:id).each_with_object({}) { |edition, found| found[edition.fingerprint] ||= edition.preset }
      end

      # A brush that came here before under the same identity but paints otherwise is a brush
      # of its own; neither replaces the other.
      def create(item)
        value = item[:preset]
        changes = {"name" => item[:name]}
        changes["id"] = SecureRandom.uuid if item[:fresh_id]
        value = Core::Preset::Preset[value.to_h.merge(changes)] unless item[:name] == value.name && !item[:fresh_id]
        edition = @bundle.items.find { _1.preset.equal?(item[:preset]) }.edition
        CreatePreset.call(library: @library, value:, person: @person, edition:, note: "Received in #{@file}")
          .tap { @undo["presets"] << _1.id }
      end

      def fill_sets(here)
        @bundle.sets.each do |group|
          set = @library.brush_sets.find_by("lower(name) = ?", group.name.downcase)
          unless set
            set = @library.brush_sets.create!(name: group.name)
            @undo["sets"] << set.id
          end
          was = set.preset_ids_in_order
          added = group.presets.map { here.fetch(_1) }.uniq - was
          next if added.empty?
          set.put_in_order(was + added)
          @undo["set_items"] << [set.id, added]
        end
      end

      def hang_tags(items, here)
        looks = @bundle.tags.to_h { [_1.name.downcase, _1] }
        items.each do |item|
          item[:preset]["about", "tags"].each do |name|
            look = looks[name.downcase]
            tag = Models::Tag.called(@library, name, colour: look&.colour, shape: look&.shape)
            tagging = tag.taggings.find_or_initialize_by(preset_id: here.fetch(item[:preset].id))
            next if tagging.persisted?
            tagging.save!
            @undo["taggings"] << [tag.id, tagging.preset_id]
          end
        end
      end

      def changed? = @undo.values.any?(&:any?)

      def summary(items)
        counts = items.group_by { _1[:does] }.transform_values(&:size)
        parts = [("#{counts["new"]} new" if counts["new"]), ("#{counts["renamed"]} under the next number" if counts["renamed"]),
          ("#{counts["identical"]} already here" if counts["identical"])].compact
        "#{@file}: #{parts.join(", ")}"
      end
    end
  end
end
