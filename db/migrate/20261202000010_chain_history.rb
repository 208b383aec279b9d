# frozen_string_literal: true

# Each entry of the history carries the sum of the one before it, so that one that was changed or removed behind the
# application's back is found (History::Chain). The database adds it, whoever writes: the entries of one library are in
# one order, and a transaction that writes the next waits for the one before, at its end only.
class ChainHistory < ActiveRecord::Migration[7.2]
  # Each part with its length before it, so that no two different entries give the same text.
  PARTS = %w[before e.place e.library_id e.person_id e.kind e.summary e.via] + [
    "to_char(e.created_at, 'YYYY-MM-DD\"T\"HH24:MI:SS.US')", "array_to_string(e.about, ' ')", "e.changes_sum"
  ].freeze

  def up
    text = PARTS.map { |part| "octet_length(coalesce(#{part}::text, '')) || ':' || coalesce(#{part}::text, '')" }
    execute <<~SQL
      CREATE FUNCTION history_sum(before text, e history_entries) RETURNS text LANGUAGE sql STABLE AS $$
        SELECT encode(sha256(convert_to(#{text.join(" || ")}, 'UTF8')), 'hex')
      $$;
      CREATE FUNCTION chain_history() RETURNS trigger LANGUAGE plpgsql AS $$
      DECLARE last history_entries;
      BEGIN
        PERFORM pg_advisory_xact_lock(1818584932, coalesce(NEW.library_id, 0)::int);
        SELECT * INTO last FROM history_entries
          WHERE coalesce(library_id, 0) = coalesce(NEW.library_id, 0) ORDER BY place DESC LIMIT 1;
        NEW.place := coalesce(last.place, 0) + 1;
        NEW.changes_sum := encode(sha256(convert_to(NEW.undo::text, 'UTF8')), 'hex');
        NEW.sum := history_sum(coalesce(last.sum, ''), NEW);
        RETURN NEW;
      END $$;
      CREATE TRIGGER chain BEFORE INSERT ON history_entries FOR EACH ROW EXECUTE FUNCTION chain_history();
    SQL
  end

  def down = raise(ActiveRecord::IrreversibleMigration)
end
