# frozen_string_literal: true

# Each entry of the ledger carries the sum of the one before it, so that one that was changed or taken out behind the
# application's back is found (Ledger::Chain). The database itself does it, whoever writes: entries of one library stand
# in one order, and whoever writes the next waits for the one before, at the end of a deed only.
class ChainLedger < ActiveRecord::Migration[7.2]
  def up
    change_table :ledger_entries, bulk: true do |t|
      t.string :via, null: false, default: "page"
      t.text :about, array: true, null: false, default: []
      t.bigint :place
      t.string :changes_sum, limit: 64
      t.string :sum, limit: 64
    end
    change_column_null :ledger_entries, :library_id, true
    execute "UPDATE ledger_entries SET about = ARRAY(SELECT t FROM unnest(touched) t WHERE t ~ '^[a-z_]+:[0-9]+$')"
    add_index :ledger_entries, :about, using: :gin
    functions
    fill
    change_column_null :ledger_entries, :place, false
    change_column_null :ledger_entries, :sum, false
    add_index :ledger_entries, "coalesce(library_id, 0), place", unique: true, name: "ledger_entries_by_place"
  end

  def down
    execute "DROP FUNCTION chain_ledger() CASCADE"
    execute "DROP FUNCTION ledger_sum(text, ledger_entries)"
    execute "DELETE FROM ledger_entries WHERE library_id IS NULL"
    change_column_null :ledger_entries, :library_id, false
    remove_index :ledger_entries, name: "ledger_entries_by_place"
    remove_columns :ledger_entries, :via, :about, :place, :changes_sum, :sum
  end

  private

  # Each part with its length before it, so that no two entries are written the same.
  def functions
    parts = %w[before e.place e.library_id e.person_id e.kind e.summary e.via] + [
      "to_char(e.created_at, 'YYYY-MM-DD\"T\"HH24:MI:SS.US')", "array_to_string(e.about, ' ')", "e.changes_sum"
    ]
    written = parts.map { |part| "octet_length(coalesce(#{part}::text, '')) || ':' || coalesce(#{part}::text, '')" }
    execute <<~SQL
      CREATE FUNCTION ledger_sum(before text, e ledger_entries) RETURNS text LANGUAGE sql STABLE AS $$
        SELECT encode(sha256(convert_to(#{written.join(" || ")}, 'UTF8')), 'hex')
      $$;
      CREATE FUNCTION chain_ledger() RETURNS trigger LANGUAGE plpgsql AS $$
      DECLARE last ledger_entries;
      BEGIN
        PERFORM pg_advisory_xact_lock(1818584932, coalesce(NEW.library_id, 0)::int);
        SELECT * INTO last FROM ledger_entries
          WHERE coalesce(library_id, 0) = coalesce(NEW.library_id, 0) ORDER BY place DESC LIMIT 1;
        NEW.place := coalesce(last.place, 0) + 1;
        NEW.changes_sum := encode(sha256(convert_to(NEW.undo::text, 'UTF8')), 'hex');
        NEW.sum := ledger_sum(coalesce(last.sum, ''), NEW);
        RETURN NEW;
      END $$;
      CREATE TRIGGER chain BEFORE INSERT ON ledger_entries FOR EACH ROW EXECUTE FUNCTION chain_ledger();
    SQL
  end

  # Those that were written before, in the order of their numbers.
  def fill
    execute <<~SQL
      DO $$
      DECLARE e ledger_entries; before text; at bigint; of bigint;
      BEGIN
        FOR e IN SELECT * FROM ledger_entries ORDER BY library_id, id LOOP
          IF of IS DISTINCT FROM e.library_id THEN before := ''; at := 0; of := e.library_id; END IF;
          at := at + 1;
          e.place := at;
          e.changes_sum := encode(sha256(convert_to(e.undo::text, 'UTF8')), 'hex');
          e.sum := ledger_sum(before, e);
          UPDATE ledger_entries SET place = e.place, changes_sum = e.changes_sum, sum = e.sum WHERE id = e.id;
          before := e.sum;
        END LOOP;
      END $$
    SQL
  end
end
