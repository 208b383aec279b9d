# frozen_string_literal: true

module Fobrel
  module Actions
    # Starts the painting program's stand-in on a seat and keeps what it reports.
    class RestartSeat < Action
      def initialize(seat:)
        @seat = seat
      end

      # @return [Models::Seat]
      # @raise [Core::Problem] when nothing was handed out yet
      def call
        if @seat.away
          raise Core::Problem, "#{@seat.name} runs on another computer. Start the desk there: fobrel desk start."
        end
        report = Core::Apart.call(Core::Startup::Start, :run, @seat.path, strips: true)
        self.class.keep(@seat, report)
      rescue Core::Problem => e
        raise e if @seat.handed_out_at
        raise Core::Problem, "Nothing was sent to #{@seat.name} yet. Send its start-up plan first."
      end

      # Keeps a report, and learns from it what a start costs there.
      #
      # @param seat [Models::Seat]
      # @param report [Hash] as Core::Startup::Start gives it
      # @return [Models::Seat]
      def self.keep(seat, report)
        report = JSON.parse(JSON.generate(strips_kept(report, seat)))
        ok = report["loaded"].select { _1["ok"] }
        usual = Core::Startup::Load.usual(ok.size, report["memory"])
        starts = [
          *seat.starts,
          {"at" => report["started_at"], "ms" => report["ms"], "memory" => report["memory"], "usual" => usual}
        ]
        seat.update!(report:, starts: starts.last(Models::Seat::STARTS))
        seat.note(
          "started",
          "#{ok.size} loaded#{", #{report["failed"]} failed" if report["failed"].positive?}, #{report["ms"].round} ms"
        )
        seat
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

      # What a seat really paints is kept as a picture of its own, and held against what was planned, pixel by pixel: it
      # need not be what its fingerprint says.
      def self.strips_kept(report, seat)
        planned = (seat.handed&.document&.fetch("startup") || []).to_h { |line| [line["id"], line["fingerprint"]] }
        painted = report[:loaded].select { |one| one[:strip] && planned[one[:id]] }
        pairs = painted.map { |one| [planned_strip(planned[one[:id]]), one[:strip]] }
        apart = painted.zip(Core::Apart.call(Core::Startup::Start, :apart, *pairs.transpose)).to_h if pairs.any?
        loaded = report[:loaded].map { |one|
          sum = one[:strip] && Core::Sum.of(one[:strip]).tap { |name| Models::SeatPlan.keep(name, one[:strip]) }
          one.except(:strip).merge(painted: sum, apart: apart&.fetch(one, nil))
        }
        report.merge(loaded:)
      end

      def self.planned_strip(print)
        Models::KeptStrip.png_for(print, "wall") { Models::Edition.find_by!(fingerprint: print).value }
      end
      private_class_method :planned_strip
      private_class_method :strips_kept
    end
  end
end
