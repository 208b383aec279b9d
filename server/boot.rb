# frozen_string_literal: true

require "active_record"
require "active_support/core_ext/integer/time"
require "bcrypt"
require "fobrel/core"
require "que"
require "rack/attack"
require "rack/protection"
require "rack/session"
require "sinatra/base"
require "tempfile"
require "zeitwerk"

# The web application around the core: who may do what, what is kept, and the API.
module Fobrel
  ROOT = File.expand_path("..", __dir__)

  # Where desks' folders and the server's own files lie.
  def self.var = ENV.fetch("FOBREL_VAR", File.join(ROOT, "var"))

  # What one person has computed at once counts over all processes of this machine.
  Core::Apart::Share.folder = File.join(var, "turns")

  # A room each: what it holds is loaded when it is named.
  ROOMS = %w[Api Actions Backups Finding Gallery Jobs History Models Proofs Reports Views Watching].freeze
  ROOMS.each { |room| const_set(room, Module.new) }

  SERVER_LOADER = Zeitwerk::Loader.new.tap do |loader|
    ROOMS.each { |room| loader.push_dir(File.join(__dir__, room.downcase), namespace: const_get(room)) }
    loader.setup
  end

  # The database: what DATABASE_URL names, made and migrated by bin/start. Our questions are short
  # ones: getting ready to compile them, or to share them out, takes longer than answering.
  module Database
    #
    # @param patience [Integer] how long one waits for what another is changing, ms
    def self.connect(url = ENV.fetch("DATABASE_URL"), patience: PATIENCE)
      ActiveRecord.default_timezone = :utc
      Que.connection = ActiveRecord
      ActiveRecord::Base.establish_connection(
        url:,
        pool: Integer(ENV.fetch("DATABASE_POOL", 28)),
        variables: {
          "pg_trgm.word_similarity_threshold" => Finding::Search::MISTYPED,
          "jit" => "off",
          "max_parallel_workers_per_gather" => 0,
          # A studio's brushes lie in memory, where no page costs more than another.
          "seq_page_cost" => 0.1,
          "random_page_cost" => 0.11,
          # What is found and counted in a large library stays in memory.
          "work_mem" => "16MB",
          # What a process that died was about is given up soon, so that another can take it up.
          "client_connection_check_interval" => 2000,
          "lock_timeout" => patience
        }
      )
    end

    # A person waits less than long work does.
    PATIENCE = Integer(ENV.fetch("LOCK_PATIENCE", 4000))
    JOB_PATIENCE = 60_000

    # Brings the tables to this version; where another process is at it, once that is done.
    def self.migrate
      ActiveRecord::Migration.verbose = false
      first { ActiveRecord::MigrationContext.new(File.join(ROOT, "db/migrate")).migrate }
      look_anew
      Models::Preset.settle(Models::Preset.where(fingerprint: nil).where.not(current_version_id: nil).ids)
    end

    # Some tables were asked for their columns when they had others.
    def self.look_anew
      Models::Record.connection.schema_cache.clear!
      Models::Record.descendants.each(&:reset_column_information)
    end

    # What one process does while others that start wait.
    def self.first
      connection = ActiveRecord::Base.connection
      sleep 0.1 until connection.select_value("SELECT pg_try_advisory_lock(#{STARTING})")
      begin
        yield
      ensure
        connection.execute("SELECT pg_advisory_unlock(#{STARTING})")
      end
    end

    STARTING = 4_810_003
    private_constant :STARTING
  end
end

require_relative "views"
require_relative "contract"
require_relative "room"
require_relative "hub"
