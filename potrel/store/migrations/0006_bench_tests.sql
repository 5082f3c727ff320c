-- Tests at the bench, sheets left half done, and the yields that were adopted.
-- depends: 0005_price_lists

CREATE TABLE bench_test (
    number bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    id ref NOT NULL UNIQUE,
    item ref NOT NULL REFERENCES item,
    kind text NOT NULL CHECK (kind IN ('trim', 'butcher', 'cooking', 'soak', 'press', 'can')),
    yield_of label NOT NULL,
    tested_on date NOT NULL,
    before_mass quantity_text NOT NULL,
    after_mass quantity_text NOT NULL,
    minutes minutes,
    supplier ref REFERENCES supplier,
    tested_by label,
    note note,
    recorded_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX bench_test_by_item ON bench_test (item, yield_of);
CREATE TRIGGER bench_test_is_append_only BEFORE UPDATE OR DELETE ON bench_test
    FOR EACH ROW EXECUTE FUNCTION refuse_change();

CREATE TABLE bench_test_part (
    test ref NOT NULL REFERENCES bench_test (id),
    position integer NOT NULL,
    name label NOT NULL,
    mass quantity_text NOT NULL,
    value_per_kg numeric NOT NULL,
    used_for label,
    PRIMARY KEY (test, position)
);

-- A test is never taken away. It may be left out of the others for a reason; the newest row of a test counts.
CREATE TABLE bench_test_standing (
    number bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    test ref NOT NULL REFERENCES bench_test (id),
    left_out label,
    said_by label NOT NULL,
    said_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE test_sheet (
    id ref PRIMARY KEY,
    item ref NOT NULL REFERENCES item,
    body jsonb NOT NULL,
    started_by label NOT NULL,
    started_at timestamptz NOT NULL DEFAULT now(),
    changed_at timestamptz NOT NULL DEFAULT now()
);
COMMENT ON COLUMN test_sheet.body IS 'the fields of the sheet as they were typed, however unfinished';

CREATE TABLE adopted_yield (
    number bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    item ref NOT NULL REFERENCES item,
    sort text NOT NULL CHECK (sort IN ('preparation', 'cooking')),
    yield_of label NOT NULL,
    entry jsonb NOT NULL,
    adopted_by label NOT NULL,
    adopted_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX adopted_yield_by_item ON adopted_yield (item, sort, yield_of);
COMMENT ON COLUMN adopted_yield.entry IS 'the whole preparation or cooking yield as in the kitchen document';
CREATE TRIGGER adopted_yield_is_append_only BEFORE UPDATE OR DELETE ON adopted_yield
    FOR EACH ROW EXECUTE FUNCTION refuse_change();

-- How cooks did at practice.
CREATE TABLE practice_answer (
    number bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    cook label NOT NULL,
    kind text NOT NULL CHECK (kind IN ('edible', 'buy', 'bench', 'cost_factor', 'usable_kilo', 'batch')),
    is_right boolean NOT NULL,
    answered_at timestamptz NOT NULL DEFAULT now()
);

-- What a kilo of the usable part is worth, and how an item's trimmings share its cost where not as the kitchen does it.
ALTER TABLE preparation ADD COLUMN value_per_kg numeric CHECK (value_per_kg > 0);
ALTER TABLE item ADD COLUMN byproduct_method text
    CHECK (byproduct_method IN ('credit', 'main_bears_all', 'market_value', 'mass'));
ALTER TABLE stage ADD COLUMN value_per_kg numeric CHECK (value_per_kg > 0);

-- A line may be what falls off an item or is taken out of a recipe.
ALTER TABLE line ADD COLUMN byproduct label;
ALTER TABLE serving_line ADD COLUMN byproduct label;
