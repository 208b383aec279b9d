# frozen_string_literal: true

module Fobrel
  module Actions
    # Sends a desk its start-up plan: keeps it as the desk's next plan, which its agent fetches. A plan counts as sent
    # once it is kept; what lies in the folder is what the folder says.
    class SendToDesk < Deed
      # @param desk [Models::Desk]
      # @param why [String]
      # @param like [Models::DeskPlan, :before, nil] an earlier plan again, or what was there before Fobrel
      def initialize(desk:, person:, why: "", like: nil)
        @desk = desk
        @person = person
        @why = Core::Names.clean(why.to_s)[0, 300]
        @like = like
      end

      # @return [Models::DeskPlan]
      # @raise [Core::Problem] also where keys clash
      def call
        @desk.lock!
        plan = keep
        said = "#{brushes(count(plan))} sent to #{@desk.name}#{": #{@why}" unless @why.empty?}"
        write_down(@desk.library, @person, "send", said, about: [@desk])
        @desk.note("sent", "plan #{plan.number}#{", as it was before Fobrel" if @like == :before}", @person)
        Models::Live.tell(what: "library", library: @desk.library_id)
        plan
      end

      private

      def keep
        number = (@desk.plans.maximum(:number) || 0) + 1
        document, contents = made(number)
        plan = @desk.plans.create!(
          number:, person: @person, why: @why, document:, lines: @desk.lines.map(&:to_json_h), keys: @desk.key_of
        )
        plan.keep_files(contents)
        list = handed(document)
        @desk.update!(sent_at: Time.current, sent: list)
        plan
      end

      def made(number)
        about = {number:, at: Time.current, by: @person.name, why: @why}
        return again(number) if @like
        plan = fresh(about)
        [plan.to_h, plan]
      end

      Files = Struct.new(:to_h, :contents)
      private_constant :Files

      # An earlier one keeps its words and files; only which plan it is, and why, are new.
      def again(number)
        about = {"plan" => number, "made_at" => Time.current.utc.iso8601, "by" => @person.name, "why" => @why}
        if @like == :before
          last = @desk.handed or raise Core::Problem,
            "Nothing was sent to #{@desk.name} yet. Nothing was changed."
          document = Core::Startup::Plan.before(last.document).merge(about, "why" => "As it was before Fobrel")
          return [document, Files.new(document, {})]
        end
        document = @like.document.merge(about)
        [document, Files.new(document, {})]
      end

      def fresh(about)
        found = Finding::StartupPlan.new(@desk)
        refuse(found)
        entries = found.brushes.map { |one|
          Core::Startup::Plan::Entry.new(
            preset: one.version.value,
            part: one.line.part,
            section: one.line.section,
            replaces: one.line.replaces,
            key: (one.key if one.line.part == "startup"),
            version: one.version.number
          )
        }
        assets = Models::Asset.files(entries.flat_map { _1.preset.needs })
        Core::Startup::Plan.build(entries, assets:, desk: @desk.slice("id", "name"), **about)
      end

      def refuse(found)
        if found.brushes.empty?
          raise Core::Problem,
            "The start-up plan of #{@desk.name} is empty. Nothing was sent. Add brushes to it first."
        end
        clash = found.keys.clashes.first or return
        raise Core::Problem, "#{clash.why} Nothing was sent to #{@desk.name}. Change one of the shortcuts first."
      end

      def count(plan) = Core::Startup::Layers::PARTS.sum { |part| plan.document[part].size }

      # Which brushes of the library it has, for asking where each is.
      def handed(document)
        lines = Core::Startup::Layers::PARTS.flat_map { |part| document[part] }
        ids = @desk.library.presets.where(document_id: lines.map { _1["id"] }).pluck(:document_id, :id).to_h
        lines.map { |line|
          {"id" => ids[line["id"]], "version" => line["version"], "fingerprint" => line["fingerprint"]}
        }
      end
    end
  end
end
