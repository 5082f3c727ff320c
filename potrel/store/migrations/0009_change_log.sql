-- What changed, whose it was, when: told by the database itself, so that nothing changes without a line. It says what to
-- read anew, and stands in the place of the bare counter.
-- depends: 0008_exact_amounts

CREATE TABLE change (
    number bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    kind text NOT NULL CHECK (kind IN
        ('all', 'settings', 'supplier', 'vessel', 'item', 'offer', 'credit', 'recipe', 'test', 'comparison')),
    id text NOT NULL,
    changed_by label NOT NULL,
    changed_at timestamptz NOT NULL DEFAULT now(),
    mark uuid NOT NULL DEFAULT gen_random_uuid()
);
COMMENT ON TABLE change IS 'append-only; the newest number, with its mark, is the version of the data';
COMMENT ON COLUMN change.mark IS 'tells two changes of one number apart: after a restore the numbers begin again where the backup ends';
CREATE TRIGGER change_is_append_only BEFORE UPDATE OR DELETE ON change
    FOR EACH ROW EXECUTE FUNCTION refuse_change();
INSERT INTO change (kind, id, changed_by) VALUES ('all', '', 'the database');
DROP TABLE data_version;

-- Who changes something is said once a transaction, in the setting potrel.actor.
CREATE FUNCTION actor() RETURNS text LANGUAGE sql STABLE AS
    'SELECT coalesce(nullif(current_setting(''potrel.actor'', true), ''''), session_user::text)';

-- Notes every row of a statement under a kind (the first argument), by the column that names it (the second).
CREATE FUNCTION note_changes() RETURNS trigger LANGUAGE plpgsql AS
    'BEGIN
        EXECUTE format(''INSERT INTO change (kind, id, changed_by) SELECT DISTINCT ON (%I) %L, %I, actor() FROM changed'',
            TG_ARGV[1], TG_ARGV[0], TG_ARGV[1]);
        RETURN NULL;
    END';
CREATE FUNCTION note_change() RETURNS trigger LANGUAGE plpgsql AS
    'BEGIN
        INSERT INTO change (kind, id, changed_by) VALUES (TG_ARGV[0], TG_ARGV[1], actor());
        RETURN NULL;
    END';

CREATE TRIGGER item_added AFTER INSERT ON item REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('item', 'id');
CREATE TRIGGER item_changed AFTER UPDATE ON item REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('item', 'id');
CREATE TRIGGER item_gone AFTER DELETE ON item REFERENCING OLD TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('item', 'id');
CREATE TRIGGER vessel_added AFTER INSERT ON vessel REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('vessel', 'id');
CREATE TRIGGER vessel_changed AFTER UPDATE ON vessel REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('vessel', 'id');
CREATE TRIGGER vessel_gone AFTER DELETE ON vessel REFERENCING OLD TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('vessel', 'id');
CREATE TRIGGER recipe_added AFTER INSERT ON recipe REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('recipe', 'id');
CREATE TRIGGER recipe_changed AFTER UPDATE ON recipe REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('recipe', 'id');
CREATE TRIGGER recipe_gone AFTER DELETE ON recipe REFERENCING OLD TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('recipe', 'id');
CREATE TRIGGER offer_added AFTER INSERT ON offer REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('offer', 'id');
CREATE TRIGGER credit_added AFTER INSERT ON credit REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('credit', 'id');
CREATE TRIGGER bench_test_added AFTER INSERT ON bench_test REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('test', 'id');
CREATE TRIGGER bench_test_standing_added AFTER INSERT ON bench_test_standing REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('test', 'test');
CREATE TRIGGER comparison_added AFTER INSERT ON comparison REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('comparison', 'id');
CREATE TRIGGER comparison_changed AFTER UPDATE ON comparison REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('comparison', 'id');
CREATE TRIGGER comparison_gone AFTER DELETE ON comparison REFERENCING OLD TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('comparison', 'id');
CREATE TRIGGER supplier_added AFTER INSERT ON supplier REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('supplier', 'id');
CREATE TRIGGER supplier_gone AFTER DELETE ON supplier REFERENCING OLD TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION note_changes('supplier', 'id');
-- When the clock fetched a list is nothing that costs hang on.
CREATE FUNCTION note_supplier() RETURNS trigger LANGUAGE plpgsql AS
    'BEGIN
        INSERT INTO change (kind, id, changed_by) VALUES (''supplier'', NEW.id, actor());
        RETURN NULL;
    END';
CREATE TRIGGER supplier_changed AFTER UPDATE OF name, position, columns, passed_over, catalogue_url, fetch_at ON supplier
    FOR EACH ROW EXECUTE FUNCTION note_supplier();
CREATE TRIGGER settings_changed AFTER INSERT OR UPDATE ON kitchen
    FOR EACH STATEMENT EXECUTE FUNCTION note_change('settings', '');
CREATE TRIGGER kitchen_emptied AFTER TRUNCATE ON item
    FOR EACH STATEMENT EXECUTE FUNCTION note_change('all', '');
