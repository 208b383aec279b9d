# frozen_string_literal: true

module Fobrel
  module Actions
    # Starts the painting program's stand-in on a desk and keeps what it reports.
    class RestartDesk < Action
      def initialize(desk:)
        @desk = desk
      end

      # @return [Models::Desk]
      # @raise [Core::Problem] when nothing was sent yet
      def call
        if @desk.away
          raise Core::Problem, "#{@desk.name} runs on another computer. Start the desk there: fobrel desk start."
        end
        report = Core::Apart.call(Core::Startup::Start, :run, @desk.path, strips: true)
        self.class.keep(@desk, report)
      rescue Core::Problem => e
        raise e if @desk.sent_at
        raise Core::Problem, "Nothing was sent to #{@desk.name} yet. Send its start-up plan first."
      end

      # Keeps a report, and learns from it what a start costs there.
      #
      # @param desk [Models::Desk]
      # @param report [Hash] as Core::Startup::Start gives it
      # @return [Models::Desk]
      def self.keep(desk, report)
        report = JSON.parse(JSON.generate(strips_kept(report, desk)))
        ok = report["loaded"].select { _1["ok"] }
        usual = Core::Startup::Load.usual(ok.size, report["memory"])
        starts = [
          *desk.starts,
          {"at" => report["started_at"], "ms" => report["ms"], "memory" => report["memory"], "usual" => usual}
        ]
        desk.update!(report:, starts: starts.last(Models::Desk::STARTS))
        desk.note(
          "started",
          "#{ok.size} loaded#{", #{report["failed"]} failed" if report["failed"].positive?}, #{report["ms"].round} ms"
        )
        desk
      end

      # What an agent sent of a start elsewhere, with its strips as base64.
      #
      # @param start [Hash]
      # @return [Hash] as Core::Startup::Start gives it
      def self.sent(start)
        loaded = start["loaded"].map { |one|
          one.merge("strip" => one["strip"]&.unpack1("m")).transform_keys(&:to_sym)
        }
        start.transform_keys(&:to_sym).merge(loaded:)
      end

      # What a desk really paints is kept as a picture of its own, and held against what was planned, pixel by pixel: it
      # need not be what its fingerprint says.
      def self.strips_kept(report, desk)
        planned = (desk.handed&.document&.fetch("startup") || []).to_h { |line| [line["id"], line["fingerprint"]] }
        painted = report[:loaded].select { |one| one[:strip] && planned[one[:id]] }
        pairs = painted.map { |one| [planned_strip(planned[one[:id]]), one[:strip]] }
        apart = painted.zip(Core::Apart.call(Core::Startup::Start, :apart, *pairs.transpose)).to_h if pairs.any?
        loaded = report[:loaded].map { |one|
          sum = one[:strip] && Core::Sum.of(one[:strip]).tap { |name| Models::DeskPlan.keep(name, one[:strip]) }
          one.except(:strip).merge(painted: sum, apart: apart&.fetch(one, nil))
        }
        report.merge(loaded:)
      end

      def self.planned_strip(print)
        Models::KeptStrip.png_for(print, "list") { Models::Version.find_by!(fingerprint: print).value }
      end
      private_class_method :planned_strip
      private_class_method :strips_kept
    end
  end
end
