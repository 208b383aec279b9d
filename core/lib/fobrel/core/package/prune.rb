# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # Takes out of a document what its schema refuses, entry by entry, so that one odd thing does not
      # make the whole unreadable.
      #
      #   Prune.call(library, schema) { |what, why| notes << "#{what}: #{why}" }  # => nil
      module Prune
        # More odd things than this, and the document is none of ours.
        MOST = 200

        # @param document [Hash, Array] changed in place
        # @param schema [JSONSchemer::Schema]
        # @yieldparam what [String] the entry that is taken out
        # @yieldparam why [String]
        # @return [Hash, nil] a finding that cannot be helped by taking an entry out; nil where all is well
        def self.call(document, schema)
          MOST.times do
            finding = schema.validate(document).first or return
            path = entry(document, finding["data_pointer"]) or return finding
            yield path.join(" "), Preset::Schema::Sentence.of(finding)
            take_out(document, path)
          end
          schema.validate(document).first
        end

        # What is a thing of its own, and can be missing without changing its neighbours.
        LISTS = %w[categories statuses bundles releases plans brushes sections].freeze
        private_constant :LISTS

        # The innermost such entry that a finding lies in.
        def self.entry(document, pointer)
          keys = pointer.split("/").drop(1).map { _1.gsub("~1", "/").gsub("~0", "~") }
          keys.size.downto(1).map {
            keys.first(_1)
          }.find { |path| LISTS.include?(path[-2]) || (path.size == 1 && document.is_a?(Array)) }
        end

        def self.take_out(document, path)
          holder = path[0...-1].inject(document) { |value, key| value.is_a?(Array) ? value[key.to_i] : value[key] }
          holder.is_a?(Array) ? holder.delete_at(path.last.to_i) : holder.delete(path.last)
        end
        private_class_method :entry, :take_out
      end
    end
  end
end
