# frozen_string_literal: true

module Fobrel
  # `fobrel backup --all`, `restore`, `verify` and `password`: for whoever runs the machine. They ask no server but the
  # database itself: what DATABASE_URL names, or else this folder's own.
  module WholeCommands
    private

    # Everything of the studio in one file, while people go on working.
    def backup_all
      target = wanted_output
      at_database do
        said = Backups::Write.file(target, passwords: @options.fetch(:passwords, false), progress:)
        rows, pictures = %w[rows files].map { |word| said["tables"].each_value.sum { _1[word] || 0 } }
        size = File.size(target)
        answer(
          {file: target, size:, rows:, pictures:},
          "#{target}: the whole studio, #{rows} rows and #{pictures} pictures and files, #{size} bytes" \
            "#{"; passwords and tokens are left out" unless said["passwords"]}"
        )
      end
    end

    # Into an empty database; or as a test, or to take a library or a brush out, into one that goes again.
    def restore
      file = argument("backup") do |o|
        output(o)
        in_library(o)
        o.on("--test") { @options[:test] = true }
        o.on("--brush NAME") { @options[:brush] = _1 }
      end
      return taken_out(file) if @options[:library] || @options[:brush]
      raise Usage, "-o goes with --library or --brush" if @options[:output]
      at_database do
        next Backups::Scratch.within { restored(file, "can be restored: a test restore matched it") } if
          @options[:test]
        empty_anew
        restored(file, "is restored")
      end
    end

    # Whether every byte of a backup is as it was written. Needs no database.
    def verify
      file = argument("backup")
      require_relative "../server/boot"
      said, found = Backups::Copy.open(file) { |copy| [copy.description, copy.check] }
      answer(
        found.merge(made_at: said["made_at"], passwords: said["passwords"]),
        "#{file}: every byte is as it was written on #{said["made_at"]}: #{counts(found)}"
      )
    end

    # A new password for somebody who has none, or forgot it. They are signed out everywhere.
    def password
      login = argument("name to sign in with")
      at_database do
        person = Models::Person.find_by(login: login.downcase) or
          raise Core::Problem,
            "Nobody signs in as “#{login}”: #{Models::Person.order(:login).pluck(:login).join(", ")}."
        Models::Record.transaction do
          person.update!(password: asked_password)
          person.sign_ins.end_all
          History::Via.from("command line") {
            Models::HistoryEntry.write(nil, person, "account", "#{person.name} has a new password, set at the machine")
          }
        end
        answer({login: person.login}, "#{person.name} signs in with the new password.")
      end
    rescue ActiveRecord::RecordInvalid => e
      raise Core::Problem, "#{e.record.errors.full_messages.join(". ")}. Nothing was changed."
    end

    def asked_password
      return $stdin.gets.to_s.chomp unless $stdin.tty?
      require "io/console"
      $stdin.getpass("New password: ")
    end

    def restored(file, what)
      found = Backups::Copy.open(file) { |copy| Backups::Restore.call(copy, progress:) }
      lines = ["#{file} #{what}: #{counts(found)}"]
      if found[:unsure].positive?
        lines << "Passwords were not in it: fobrel password NAME gives somebody a new one (#{found[:unsure]} people)."
      end
      broken = found[:broken]
      lines << "Its history was changed behind the application's back already: #{broken.join(", ")}" if broken.any?
      answer(found, lines)
    end

    def counts(found) = "#{found[:rows]} rows, #{found[:files]} pictures and files"

    # A library as a backup of its own, or brushes of one name as a package: into a studio by its Import.
    def taken_out(file)
      target = wanted_output
      at_database do
        Backups::Scratch.within do
          Backups::Copy.open(file) { |copy| Backups::Restore.call(copy, progress:) }
          library, wish = wish_of(@options[:library], @options[:brush])
          person = library.memberships.find_by(role: "lead")&.person || Models::Person.order(:id).first
          made = Actions::ExportBrushes.call(library:, person:, wish:, goes_to: "the command line")
          write(target) { |io| IO.copy_stream(made.io, io) }
          answer({file: target, library: library.name}, "#{target}: #{wish["name"]} of “#{library.name}”")
        end
      end
    end

    def wish_of(name, brush)
      libraries = Models::Library.order(:name).to_a
      found = name ? libraries.select { _1.name.casecmp?(name) } : libraries
      raise Core::Problem, "There is no library “#{name}” in it: #{libraries.map(&:name).join(", ")}." if found.empty?
      return [found.first, {"kind" => "backup", "name" => found.first.name}] unless brush
      found.each do |library|
        ids = library.presets.named(brush).ids
        wish = {"kind" => "package", "name" => brush, "of" => {"preset_ids" => ids}}
        return [library, wish] if ids.any?
      end
      raise Core::Problem, "There is no brush “#{brush}” in it. Nothing was written."
    end

    # This folder's own database may have been begun already, with nobody in it.
    def empty_anew
      return unless @postgres && Models::Record.connection.table_exists?("people")
      return if Models::Person.any? || Models::Library.any?
      ActiveRecord::Base.connection_handler.clear_all_connections!
      @postgres.drop("fobrel")
      Database.connect(@postgres.start("fobrel"), patience: Database::JOB_PATIENCE)
    end

    def at_database
      require_relative "../server/boot"
      require_relative "../server/postgres"
      url = ENV["DATABASE_URL"] || (@postgres = Postgres.new(Fobrel.var)).start("fobrel")
      Database.connect(ENV["DATABASE_URL"] = url, patience: Database::JOB_PATIENCE)
      Backups::Scratch.sweep
      yield
    rescue Postgres::Failed, ActiveRecord::ConnectionNotEstablished, PG::ConnectionBad => e
      raise Core::Problem, "The database cannot be reached (#{e.message.lines.first.strip}). Nothing was changed."
    ensure
      ActiveRecord::Base.connection_handler.clear_all_connections! if defined?(ActiveRecord::Base)
      @postgres&.stop
    end

    # Told at a terminal only.
    def progress
      return unless $stderr.tty?
      ->(done, total) { $stderr.print("\r#{done} of #{total} tables#{"\n" if done == total - 1}") }
    end
  end
end
