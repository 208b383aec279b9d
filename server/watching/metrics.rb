# frozen_string_literal: true

require "prometheus/client"
require "prometheus/client/data_stores/direct_file_store"
require "prometheus/client/formats/text"

module Fobrel
  module Watching
    # Figures in the open text format that Prometheus reads (text exposition format 0.0.4), over all web processes of
    # one start. Whoever asks comes from this machine itself, or shows METRICS_TOKEN.
    module Metrics
      TYPE = Prometheus::Client::Formats::Text::CONTENT_TYPE
      # Seconds.
      BUCKETS = [0.01, 0.03, 0.1, 0.3, 1, 3, 10].freeze
      HERE = %w[127.0.0.1 ::1].freeze
      NAMES = %w[localhost 127.0.0.1 [::1]].freeze
      LOCK = Mutex.new
      private_constant :BUCKETS, :HERE, :NAMES, :LOCK

      class << self
        # Counts together with other processes; before anything is counted.
        #
        # @param folder [String] that is emptied
        def share(folder)
          FileUtils.rm_rf(folder)
          FileUtils.mkdir_p(folder)
          Prometheus::Client.config.data_store = Prometheus::Client::DataStores::DirectFileStore.new(dir: folder)
          @shared = true
        end

        # @param route [String] as the contract writes it
        # @param seconds [Float]
        def asked(verb, route, status, seconds)
          requests.increment(labels: {verb:, route:, status: status.to_s})
          time.observe(seconds, labels: {verb:, route:})
        end

        # A strip was painted that was not kept.
        def painted = strips.increment

        # @param env [Hash] of Rack
        # @return [Boolean]
        def may?(env)
          token = ENV["METRICS_TOKEN"].to_s
          shown = env["HTTP_AUTHORIZATION"].to_s.delete_prefix("Bearer ")
          return true if token.size >= 16 && Rack::Utils.secure_compare(token, shown)
          # A page of somebody else's that a browser on this machine shows asks from here, too, but under its own name.
          host = env["HTTP_HOST"].to_s.sub(/:\d+\z/, "")
          HERE.include?(env["REMOTE_ADDR"]) && !env.key?("HTTP_X_FORWARDED_FOR") && NAMES.include?(host)
        end

        # @return [String]
        def text
          now
          Prometheus::Client::Formats::Text.marshal(registry)
        end

        private

        def registry = Prometheus::Client.registry

        # Two requests may be the first to count at the same moment.
        def kept(kind, name, words, **rest)
          LOCK.synchronize { registry.get(name) || registry.public_send(kind, name, docstring: words, **rest) }
        end

        def requests
          @requests ||= kept(:counter, :fobrel_requests_total, "Requests", labels: %i[verb route status])
        end

        def time
          @time ||= kept(
            :histogram, :fobrel_request_seconds, "How long answers took", labels: %i[verb route], buckets: BUCKETS
          )
        end

        def strips = @strips ||= kept(:counter, :fobrel_strips_painted_total, "Strips that were painted")

        def gauge(name, words, **labels)
          settings = @shared ? {store_settings: {aggregation: :most_recent}} : {}
          kept(:gauge, name, words, labels: labels.keys, **settings)
        end

        def set(name, words, value, **labels) = gauge(name, words, **labels).set(value.to_f, labels:)

        # What is asked of the database in the moment of asking.
        def now
          pulses = Models::Pulse.now.to_a
          set(:fobrel_painting, "What is being painted", pulses.sum { _1.said["painting"].to_i })
          set(:fobrel_painting_waiting, "What waits to be painted", pulses.sum { _1.said["waiting"].to_i })
          pulses.group_by(&:kind).each do |kind, list|
            set(:fobrel_processes, "Processes that are there", list.size, kind:)
            set(:fobrel_memory_bytes, "Their memory", list.sum { _1.said["memory"].to_i }, kind:)
          end
          jobs = Models::Task.where(state: %w[waiting working]).group(:state).count
          %w[waiting working].each { |state| set(:fobrel_jobs, "Background work", jobs.fetch(state, 0), state:) }
          set(:fobrel_sessions, "People signed in", Models::SignIn.live.count)
          good = Models::StudioBackup.last_good
          set(:fobrel_backup_timestamp_seconds, "When the last whole backup was made (Unix)", good.made_at) if good
          ActiveRecord::Base.connection_pool.stat.slice(:size, :busy, :idle, :waiting).each do |state, count|
            set(:fobrel_database_pool, "Connections to the database of one web process", count, state: state.to_s)
          end
        end
      end
    end
  end
end
