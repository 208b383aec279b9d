# frozen_string_literal: true

require "tmpdir"
require_relative "../../server/postgres"

# A database of the tests' own, and a small studio in it. TEST_DATABASE_URL may name another, and
# TEST_CLUSTER a folder below var for a cluster of its own, so that two runs do not meet.
cluster = File.expand_path("../../var/#{ENV["TEST_CLUSTER"]}", __dir__)
TEST_POSTGRES = Fobrel::Postgres.new(cluster, careless: true) unless ENV["TEST_DATABASE_URL"]
ENV["DATABASE_URL"] = ENV["TEST_DATABASE_URL"] || TEST_POSTGRES.start("fobrel_test")
ENV["FOBREL_VAR"] = Dir.mktmpdir("fobrel-spec")
ENV["SIGN_IN_LIMIT"] = "100000"
# Two runs beside each other leave no time for what stands far behind.
ENV["PAINTERS_NICE"] ||= "0"
ENV["PAINT_SECONDS"] ||= "60"

require_relative "../../server/app"
require_relative "../../demo/studio"
require_relative "../../demo/gallery"

# Hashing slowly is for real passwords.
ActiveModel::SecurePassword.min_cost = true
Fobrel::Database.connect
Fobrel::Database.migrate
# Long work is done where it is asked for; the queue itself has a spec of its own.
Que::Job.run_synchronously = true
ENV["GALLERY_WAIT"] = "0"

# What server and browser specs share.
module Studio
  M = Fobrel::Models
  PASSWORD = Fobrel::Demo::Studio::PASSWORD

  # All rows go, with no trigger and no reference asked; a TRUNCATE of so many small tables makes each anew on the
  # disk, 0.2 to 0.4 s an example. Its role must be allowed to say so (a superuser).
  #
  # @param keep [Array<String>] tables left as they are
  def self.clear(keep: [])
    connection = M::Record.connection
    # Setting them back is undone with a transaction, as emptying a table is; setval would not be.
    tables = connection.tables - %w[schema_migrations ar_internal_metadata] - keep
    connection.execute(
      [
        "SET session_replication_role = replica",
        *tables.map { "DELETE FROM #{_1}" },
        restarts(connection, "last_value IS NOT NULL"),
        "SET session_replication_role = DEFAULT"
      ].join("; ")
    )
  end

  def self.restarts(connection, which)
    names = connection.select_values("SELECT sequencename FROM pg_sequences WHERE schemaname = 'public' AND #{which}")
    names.map { "ALTER SEQUENCE #{_1} RESTART" }.join("; ")
  end
  private_class_method :restarts

  # The studio of .build, built only where it does not stand as it was built: examples that undo
  # all they do can share it.
  def self.stand
    return @standing if @standing && counts == @counts
    clear
    @standing = build
    @counts = counts
    @standing
  end

  def self.counts
    [M::Person, M::Library, M::Preset, M::Version, M::Tag, M::Draft, M::HistoryEntry].map { |model|
      [model.count, model.maximum(:id)]
    }
  end
  private_class_method :counts

  # Three people, two libraries; a few brushes in the first, none in the second.
  def self.build(brushes: 8)
    people = Fobrel::Demo::Studio::PEOPLE.to_h { |login, name|
      [login, M::Person.create!(login:, name:, password: PASSWORD)]
    }
    first, second = Fobrel::Demo::Studio::ROLES.map do |name, roles|
      M::Library.create!(name:).tap { |made|
        roles.each { |login, role|
          made.memberships.create!(person: people[login], role:)
        }
      }
    end
    Fobrel::Demo::Studio.import_brushes(first, people["maren"], drawn(brushes).first(brushes))
    [first, second]
  end

  # The studio of .build, which takes seconds; from the second time on its rows are copied back.
  #
  # @param keep [Array<String>] tables left as they are
  def self.again(keep: [])
    clear(keep:)
    # One that was set and not used since does not say so.
    M::Record.connection.tap { |db| db.execute(restarts(db, "TRUE")) } unless @copied
    @copied ? copy_back(keep) : build.then { copy_away }
    M::Library.order(:id).first(2)
  end

  # Changes of a library are told by transaction: copied back they would look as if nothing had changed since. A process
  # writes its pulse whenever it likes.
  TOLD_ANEW = %w[brush_changes pulses schema_migrations ar_internal_metadata].freeze

  def self.copy_away
    connection = M::Record.connection
    connection.execute("DROP SCHEMA IF EXISTS as_built CASCADE; CREATE SCHEMA as_built")
    @copied = (connection.tables - TOLD_ANEW).reject { connection.select_value("SELECT 1 FROM #{_1} LIMIT 1").nil? }
    @copied.each { connection.execute("CREATE TABLE as_built.#{_1} AS SELECT * FROM public.#{_1}") }
    @next = connection.select_rows("SELECT sequencename, last_value + 1 FROM pg_sequences WHERE last_value IS NOT NULL")
  end

  def self.copy_back(keep)
    connection = M::Record.connection
    rows = (@copied - keep).map do |table|
      columns = connection.columns(table).reject(&:virtual?).map { connection.quote_column_name(_1.name) }.join(", ")
      "INSERT INTO #{table} (#{columns}) SELECT #{columns} FROM as_built.#{table}"
    end
    connection.execute(
      [
        "SET session_replication_role = replica",
        *rows,
        "SET session_replication_role = DEFAULT",
        *@next.map { |name, value| "ALTER SEQUENCE #{name} RESTART WITH #{value}" },
        "INSERT INTO brush_changes (library_id) SELECT id FROM libraries"
      ].join("; ")
    )
  end
  private_class_method :copy_away, :copy_back

  # The demo's brushes, drawn once; the first of them are lines, which need fewer pictures.
  def self.drawn(count = nil)
    (count && count <= 12) ? (@inks ||= Fobrel::Demo::Brushes.inks) : (@drawn ||= Fobrel::Demo::Brushes.all)
  end
end

RSpec.configure do |config|
  config.after(:suite) do
    ActiveRecord::Base.connection_handler.clear_all_connections!
    FileUtils.rm_rf(ENV.fetch("FOBREL_VAR"))
    TEST_POSTGRES&.stop
  end
end
