-- A kitchen with a past: what each save is made of, when a price was set, rows that keep their identity, what is read by span.
-- depends: 0023_prices

-- Stands for all that the food cost of a portion hangs on: two saves of which it is the same cost the same. Names, notes and
-- prices are left out, so most saves of a year are told apart from none.
CREATE FUNCTION made_of(body jsonb) RETURNS text LANGUAGE sql IMMUTABLE RETURN (
    SELECT CASE WHEN jsonb_typeof(body) = 'object' THEN md5(
        ((body - 'name' - 'note' - 'variant_of' - 'pricings')
        || jsonb_build_object(
            'stages', CASE jsonb_typeof(body -> 'stages') WHEN 'array' THEN (
                SELECT jsonb_agg(CASE jsonb_typeof(stage) WHEN 'object' THEN stage - 'name' - 'note' ELSE stage END ORDER BY place)
                FROM jsonb_array_elements(body -> 'stages') WITH ORDINALITY AS of_stages (stage, place)) END,
            'servings', CASE jsonb_typeof(body -> 'servings') WHEN 'array' THEN (
                SELECT jsonb_agg(CASE jsonb_typeof(serving) WHEN 'object' THEN
                    serving - 'name' - 'price' - 'price_set_on' - 'coming' - 'channels' - 'pricing' - 'commission' - 'add_ons'
                    ELSE serving END ORDER BY place)
                FROM jsonb_array_elements(body -> 'servings') WITH ORDINALITY AS of_servings (serving, place)) END)
        )::text) END
);
ALTER TABLE recipe_revision ADD COLUMN made_of text GENERATED ALWAYS AS (made_of(body)) STORED;
COMMENT ON COLUMN recipe_revision.made_of IS 'stands for all that its food cost hangs on; null where it was taken off';
CREATE INDEX recipe_revision_made_of ON recipe_revision (recipe, revision) INCLUDE (saved_at, made_of);
CREATE INDEX recipe_revision_gone ON recipe_revision (recipe) WHERE body IS NULL;

ALTER TABLE serving ADD COLUMN price_set_at timestamptz;
COMMENT ON COLUMN serving.price_set_at IS 'when the price of this day was saved first; null where no save is known';
UPDATE serving SET price_set_at = known.at FROM (
    SELECT s.recipe, s.id, min(v.saved_at) AS at FROM serving s JOIN recipe_revision v ON v.recipe = s.recipe
    CROSS JOIN LATERAL jsonb_array_elements(CASE jsonb_typeof(v.body -> 'servings')
        WHEN 'array' THEN v.body -> 'servings' ELSE '[]' END) one
    WHERE s.price_set_on IS NOT NULL AND one ->> 'id' = s.id AND one ->> 'price_set_on' = s.price_set_on::text
        AND CASE WHEN one ->> 'price' ~ '^[0-9]{1,20}([.][0-9]{1,20})?$' THEN (one ->> 'price')::numeric = s.price END
    GROUP BY s.recipe, s.id) AS known
WHERE serving.recipe = known.recipe AND serving.id = known.id;

-- A line that has an id stays the row that it was when it goes to another place.
ALTER TABLE line ADD COLUMN number bigint GENERATED ALWAYS AS IDENTITY;
ALTER TABLE line DROP CONSTRAINT line_pkey;
ALTER TABLE line ADD PRIMARY KEY (number);
ALTER TABLE line ADD CONSTRAINT line_place UNIQUE (recipe, stage, position) DEFERRABLE INITIALLY DEFERRED;
CREATE INDEX line_by_stage ON line (recipe, stage);

CREATE INDEX sale_by_week ON sale (week);

-- A round is taken back price by price where some have moved on since.
ALTER TABLE price_change ADD COLUMN taken_back_at timestamptz;
UPDATE price_change SET taken_back_at = price_round.taken_back_at FROM price_round
WHERE price_round.number = price_change.round AND price_round.taken_back_at IS NOT NULL;

-- The kitchen's own clock. One that is there already has that of the machine on which its database was made.
ALTER TABLE kitchen ADD COLUMN time_zone text NOT NULL DEFAULT 'UTC' CHECK (time_zone ~ '^[A-Za-z0-9_+/-]{1,120}$');
UPDATE kitchen SET time_zone = current_setting('TimeZone')
WHERE current_setting('TimeZone') IN (SELECT name FROM pg_timezone_names);

-- What changes deals is told apart from what changes the settings.
ALTER TABLE change DROP CONSTRAINT change_kind_check;
ALTER TABLE change ADD CONSTRAINT change_kind_check CHECK (kind IN
    ('all', 'settings', 'supplier', 'vessel', 'item', 'offer', 'credit', 'recipe', 'test', 'comparison', 'deal'));
DROP TRIGGER deal_changed ON deal;
CREATE TRIGGER deal_changed AFTER INSERT OR UPDATE OR DELETE ON deal
    FOR EACH STATEMENT EXECUTE FUNCTION note_change('deal', '');

-- The board as it was last written, packed: what a start answers with before the kitchen is costed, and what a new version is
-- held against. "reckoning" is the newest change of the rules that the build knew.
CREATE TABLE kept_board (
    only_one boolean PRIMARY KEY DEFAULT true CHECK (only_one),
    mark uuid NOT NULL,
    day date NOT NULL,
    build text NOT NULL,
    reckoning integer NOT NULL,
    packed bytea NOT NULL
);
ALTER TABLE kept_board ALTER COLUMN packed SET STORAGE EXTERNAL;

-- What a new version reckons otherwise: a record, told until somebody has seen it.
CREATE TABLE cost_otherwise (
    number bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    at timestamptz NOT NULL DEFAULT now(),
    on_day date NOT NULL,
    reasons text[] NOT NULL,
    recipe ref NOT NULL,
    recipe_name label NOT NULL,
    serving ref NOT NULL,
    serving_name label NOT NULL,
    was numeric,
    now numeric,
    seen_at timestamptz,
    seen_by label,
    CHECK ((seen_at IS NULL) = (seen_by IS NULL)),
    CHECK (was IS DISTINCT FROM now)
);
COMMENT ON COLUMN cost_otherwise.was IS 'the food cost of a portion; null where it was not known';
CREATE INDEX cost_otherwise_unseen ON cost_otherwise (number) WHERE seen_at IS NULL;
