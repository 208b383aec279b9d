# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # What would become of each thing in an import, held against what a library has: its state,
      # what can be decided, and what is decided unless somebody says otherwise. Nothing that is
      # here is ever replaced by default.
      #
      #   ImportPlan.new(coming:, here:, choices: {"all" => {"named" => "leave"}}).rows
      class ImportPlan
        # A brush of the library as it is now: key, name, identity, fingerprint, number of its
        # current version; whether it was changed here, is locked against this person, lies in
        # hidden; the fingerprints of its earlier versions that matter here.
        Here = Struct.new(
          :key,
          :name,
          :document_id,
          :fingerprint,
          :version,
          :altered,
          :locked,
          :hidden,
          :past,
          keyword_init: true
        )
        # A thing that came; `kind` is "preset" or why it cannot be used (see Package::Delivery).
        # `apart`: it comes from a backup, where another of its stroke or name is a brush beside it.
        Coming = Struct.new(:key, :name, :document_id, :fingerprint, :version, :kind, :apart, keyword_init: true)
        # One line of the plan. `here` is the brush of the library that it meets, `twin` the thing
        # in this import that paints the same; `name` is what it would be called.
        Row = Struct.new(:coming, :state, :here, :twin, :choices, :decision, :name, keyword_init: true)

        # What can be decided in each state, the default first.
        #
        # new: nothing like it is here. identical: paints as a brush here does. hidden: so does one
        # hidden. newer: a later version of a brush here. older: an earlier one. apart: an
        # version of a brush here that went its own way. named: the same name with another stroke.
        #
        # take: as a brush of its own. both: the same, under the next number. version: as the next
        # version of the one here. replace: its place is taken, the one here is hidden.
        # back: the hidden one is restored. leave: it is left out.
        CHOICES = {
          "new" => %w[take leave],
          "identical" => %w[leave],
          "hidden" => %w[leave back],
          "newer" => %w[version both replace leave],
          "older" => %w[leave version both],
          "apart" => %w[both version replace leave],
          "named" => %w[both version replace leave],
          "lacking" => %w[leave],
          "future" => %w[leave],
          "unreadable" => %w[leave],
          "aside" => %w[leave]
        }.freeze

        # What is said of each state on the screen, those that ask for a decision first.
        STATES = {
          "named" => "The same name, another stroke",
          "apart" => "A version that went its own way",
          "newer" => "A newer version of a brush here",
          "older" => "An older version of a brush here",
          "hidden" => "Hidden here",
          "lacking" => "A need is missing",
          "future" => "Written by a later version",
          "unreadable" => "Cannot be read",
          "aside" => "Left aside",
          "new" => "New",
          "identical" => "Already here, paints the same"
        }.freeze

        # What each decision is called on the screen.
        DECISIONS = {
          "take" => "import",
          "both" => "keep both, next number",
          "version" => "take as next version",
          "replace" => "replace it; the replaced brush is hidden",
          "back" => "restore",
          "leave" => "leave out"
        }.freeze

        # @param coming [Array<Coming>] in order
        # @param here [Array<Here>]
        # @param choices [Hash] "items" from a thing's key (as text) to a decision, "all" from a state to one
        def initialize(coming:, here:, choices: {})
          @coming = coming
          @choices = choices
          @here = here
          shown = here.reject(&:hidden)
          @by_print = here.group_by(&:fingerprint)
          @by_id = here.to_h { [_1.document_id, _1] }
          @by_name = shown.reverse.to_h { [_1.name.downcase, _1] }
          @by_past = here.flat_map { |one| (one.past || []).map { [_1, one] } }.to_h
        end

        # @return [Array<Row>] in the order of what came
        def rows
          @taken = @here.map(&:name)
          @names = @taken.map(&:downcase).to_set
          @names_here = @names.dup
          @seen = {}
          @met = Set.new
          @coming.map { |one| line(one) }
        end

        private

        def line(one)
          state, here = meets(one)
          twin = @seen[one.fingerprint] if one.kind == "preset" && !one.apart
          if twin && state != "identical"
            return Row.new(
              coming: one,
              state: "identical",
              twin:,
              choices: ["leave"],
              decision: "leave",
              name: one.name
            )
          end
          row = Row.new(coming: one, state:, here:, choices: open_to(state, here), name: one.name)
          row.decision = decided(row)
          @seen[one.fingerprint] = one.key if one.kind == "preset" && row.decision != "leave"
          @met << here.key if %w[version replace].include?(row.decision)
          row.name = called(row)
          row
        end

        def meets(one)
          return [one.kind, nil] unless one.kind == "preset"
          # Of several that paint alike, the one that it is, or is called.
          same = @by_print[one.fingerprint]&.min_by {
            [_1.hidden ? 1 : 0, (_1.document_id == one.document_id) ? 0 : 1, _1.name.casecmp?(one.name) ? 0 : 1]
          }
          return [same.hidden ? "hidden" : "identical", same] if same
          known = @by_past[one.fingerprint]
          return ["older", known] if known
          kin = @by_id[one.document_id]
          return [age(one, kin), kin] if kin && !kin.hidden
          namesake = @by_name[one.name.downcase]
          namesake ? ["named", namesake] : ["new", nil]
        end

        def age(one, kin)
          return "apart" if one.version == kin.version || (one.version > kin.version && kin.altered)
          (one.version > kin.version) ? "newer" : "older"
        end

        # A brush is met once: a second thing cannot become its next version too. Nobody sees the
        # next version of what is hidden.
        def open_to(state, here)
          closed = (here && (here.locked || here.hidden || @met.include?(here.key))) ? %w[version replace] : []
          left = CHOICES.fetch(state) - closed
          left.empty? ? ["leave"] : left
        end

        def decided(row)
          said = @choices.dig("items", row.coming.key.to_s) || @choices.dig("all", row.state)
          row.choices.include?(said) ? said : row.choices.first
        end

        def called(row)
          case row.decision
          when "version", "back" then row.here.name
          when "take", "both" then own(row.coming)
          else row.coming.name
          end
        end

        def own(one)
          name = one.name
          name = Numbering.next_name(name, @taken) if (one.apart ? @names_here : @names).include?(name.downcase)
          @names << name.downcase
          @taken << name
          name
        end
      end
    end
  end
end
