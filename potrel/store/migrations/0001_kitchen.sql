-- The kitchen: one row of settings, suppliers, vessels, items, offers and recipes, and the revisions of recipes.
-- depends:

CREATE DOMAIN ref AS text CHECK (VALUE ~ '^[A-Za-z0-9][A-Za-z0-9_.-]{0,79}$');
CREATE DOMAIN label AS text CHECK (char_length(VALUE) BETWEEN 1 AND 200);
CREATE DOMAIN note AS text CHECK (char_length(VALUE) <= 2000);
CREATE DOMAIN quantity_text AS text CHECK (char_length(VALUE) BETWEEN 2 AND 100);
CREATE DOMAIN amount AS numeric CHECK (VALUE >= 0);
CREATE DOMAIN share AS numeric CHECK (VALUE >= 0 AND VALUE <= 1);
CREATE DOMAIN positive_share AS numeric CHECK (VALUE > 0 AND VALUE <= 1);
CREATE DOMAIN yield_factor AS numeric CHECK (VALUE > 0 AND VALUE <= 20);
CREATE DOMAIN rate AS numeric CHECK (VALUE >= 0);
CREATE DOMAIN density AS numeric CHECK (VALUE >= 0.01 AND VALUE <= 5);
CREATE DOMAIN minutes AS numeric CHECK (VALUE >= 0 AND VALUE <= 20160);

CREATE TABLE kitchen (
    only_one boolean PRIMARY KEY DEFAULT true CHECK (only_one),
    name label NOT NULL,
    currency text NOT NULL CHECK (currency ~ '^[A-Z]{3}$'),
    seasoning_allowance share NOT NULL,
    serving_loss share NOT NULL CHECK (serving_loss < 1),
    labour_rate_per_hour rate,
    overhead_rate_per_hour rate,
    energy_price_per_kwh rate,
    tax_rate share NOT NULL,
    target_food_cost positive_share,
    price_ending_step numeric CHECK (price_ending_step > 0),
    price_ending_cents numeric[],
    byproduct_method text NOT NULL CHECK (byproduct_method IN ('credit', 'main_bears_all', 'market_value', 'mass')),
    measure_system text NOT NULL CHECK (measure_system IN ('us', 'metric', 'imperial')),
    old_price_days minutes NOT NULL,
    CHECK (price_ending_step IS NULL OR price_ending_cents IS NULL)
);

-- Counts every change but new offers, which are append-only and tell their age by their number.
CREATE TABLE data_version (
    only_one boolean PRIMARY KEY DEFAULT true CHECK (only_one),
    version bigint NOT NULL
);
INSERT INTO data_version (version) VALUES (1);

CREATE TABLE supplier (
    id ref PRIMARY KEY,
    position integer NOT NULL,
    name label NOT NULL
);

CREATE TABLE vessel (
    id ref PRIMARY KEY,
    position integer NOT NULL,
    name label NOT NULL,
    capacity quantity_text
);

CREATE TABLE item (
    id ref PRIMARY KEY,
    position integer NOT NULL,
    name label NOT NULL,
    kind label NOT NULL,
    density density,
    preferred_supplier ref REFERENCES supplier,
    allergens text[] NOT NULL DEFAULT '{}'
);

CREATE TABLE measure (
    item ref NOT NULL REFERENCES item ON DELETE CASCADE,
    unit label NOT NULL,
    position integer NOT NULL,
    mass quantity_text NOT NULL,
    PRIMARY KEY (item, unit)
);

CREATE TABLE preparation (
    item ref NOT NULL REFERENCES item ON DELETE CASCADE,
    id ref NOT NULL,
    position integer NOT NULL,
    name label NOT NULL,
    yield yield_factor NOT NULL,
    low yield_factor,
    high yield_factor,
    source label,
    PRIMARY KEY (item, id),
    CHECK (low IS NULL OR low <= yield),
    CHECK (high IS NULL OR high >= yield)
);

CREATE TABLE preparation_byproduct (
    item ref NOT NULL,
    preparation ref NOT NULL,
    position integer NOT NULL,
    name label NOT NULL,
    share share NOT NULL,
    value_per_kg numeric NOT NULL,
    used_for label,
    PRIMARY KEY (item, preparation, position),
    FOREIGN KEY (item, preparation) REFERENCES preparation ON DELETE CASCADE
);

CREATE TABLE cooking (
    item ref NOT NULL REFERENCES item ON DELETE CASCADE,
    method label NOT NULL,
    position integer NOT NULL,
    yield yield_factor NOT NULL,
    low yield_factor,
    high yield_factor,
    source label,
    PRIMARY KEY (item, method),
    CHECK (low IS NULL OR low <= yield),
    CHECK (high IS NULL OR high >= yield)
);

CREATE TABLE offer (
    number bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    id ref NOT NULL UNIQUE,
    item ref NOT NULL REFERENCES item,
    supplier ref NOT NULL REFERENCES supplier,
    pack label NOT NULL,
    price amount NOT NULL,
    valid_from date NOT NULL,
    drained quantity_text,
    corrects ref REFERENCES offer (id) CHECK (corrects <> id),
    recorded_at timestamptz NOT NULL DEFAULT now(),
    recorded_by label NOT NULL
);
CREATE INDEX offer_by_item ON offer (item, valid_from);

CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS
    'BEGIN RAISE EXCEPTION ''% is append-only: record a correction instead'', TG_TABLE_NAME; END';
CREATE TRIGGER offer_is_append_only BEFORE UPDATE OR DELETE ON offer
    FOR EACH ROW EXECUTE FUNCTION refuse_change();

CREATE TABLE recipe (
    id ref PRIMARY KEY,
    position integer NOT NULL,
    revision integer NOT NULL CHECK (revision >= 1),
    name label NOT NULL,
    density density NOT NULL,
    seasoning_allowance share,
    measured_quantity quantity_text,
    measured_on date,
    use_measured_yield boolean NOT NULL,
    note note,
    CHECK ((measured_quantity IS NULL) = (measured_on IS NULL)),
    CHECK (NOT use_measured_yield OR measured_quantity IS NOT NULL)
);

CREATE TABLE stage (
    recipe ref NOT NULL REFERENCES recipe ON DELETE CASCADE,
    id ref NOT NULL,
    position integer NOT NULL,
    name label,
    method label,
    vessel ref REFERENCES vessel,
    lid text CHECK (lid IN ('on', 'off', 'ajar')),
    temperature_c numeric CHECK (temperature_c BETWEEN -40 AND 400),
    minutes minutes,
    attended_minutes minutes NOT NULL,
    energy_kwh rate,
    rule text NOT NULL CHECK (rule IN ('keep', 'yield', 'evaporate', 'reduce', 'top_up')),
    change_yield yield_factor,
    per_hour share,
    kg_per_hour rate,
    change_to quantity_text,
    top_up_item ref REFERENCES item,
    top_up_recipe ref REFERENCES recipe,
    top_up_preparation text[] NOT NULL DEFAULT '{}',
    residue share NOT NULL,
    note note,
    PRIMARY KEY (recipe, id),
    UNIQUE (recipe, position) DEFERRABLE INITIALLY DEFERRED,
    CHECK ((rule = 'yield') = (change_yield IS NOT NULL)),
    CHECK ((rule = 'evaporate') = (num_nonnulls(per_hour, kg_per_hour) = 1)),
    CHECK ((rule IN ('reduce', 'top_up')) = (change_to IS NOT NULL)),
    CHECK ((rule = 'top_up') = (num_nonnulls(top_up_item, top_up_recipe) = 1))
);

CREATE TABLE inflow (
    recipe ref NOT NULL,
    stage ref NOT NULL,
    position integer NOT NULL,
    from_stage ref NOT NULL,
    share positive_share NOT NULL,
    PRIMARY KEY (recipe, stage, position),
    FOREIGN KEY (recipe, stage) REFERENCES stage ON DELETE CASCADE,
    FOREIGN KEY (recipe, from_stage) REFERENCES stage (recipe, id) ON DELETE CASCADE,
    CHECK (from_stage <> stage)
);

CREATE TABLE line (
    recipe ref NOT NULL,
    stage ref NOT NULL,
    position integer NOT NULL,
    id ref,
    item ref REFERENCES item,
    uses_recipe ref REFERENCES recipe,
    quantity quantity_text NOT NULL,
    basis text NOT NULL CHECK (basis IN ('AP', 'EP')),
    preparation text[] NOT NULL DEFAULT '{}',
    cook_yield yield_factor,
    PRIMARY KEY (recipe, stage, position),
    FOREIGN KEY (recipe, stage) REFERENCES stage ON DELETE CASCADE,
    UNIQUE (recipe, id),
    CHECK (num_nonnulls(item, uses_recipe) = 1),
    CHECK (uses_recipe IS DISTINCT FROM recipe)
);
CREATE INDEX line_by_item ON line (item);
CREATE INDEX line_by_recipe ON line (uses_recipe);

CREATE TABLE take_out (
    recipe ref NOT NULL,
    stage ref NOT NULL,
    position integer NOT NULL,
    name label NOT NULL,
    mass quantity_text,
    of_lines text[] NOT NULL DEFAULT '{}',
    spent_factor yield_factor,
    value_per_kg numeric NOT NULL,
    used_for label,
    PRIMARY KEY (recipe, stage, position),
    FOREIGN KEY (recipe, stage) REFERENCES stage ON DELETE CASCADE,
    CHECK ((mass IS NULL) = (cardinality(of_lines) > 0)),
    CHECK ((cardinality(of_lines) > 0) = (spent_factor IS NOT NULL))
);

CREATE TABLE serving (
    recipe ref NOT NULL REFERENCES recipe ON DELETE CASCADE,
    id ref NOT NULL,
    position integer NOT NULL,
    name label NOT NULL,
    size quantity_text NOT NULL,
    portioning_seconds minutes NOT NULL,
    pricing_method text CHECK (pricing_method IN
        ('food_cost_share', 'factor', 'contribution', 'prime_cost_share', 'full_cost')),
    pricing_share positive_share,
    pricing_factor numeric CHECK (pricing_factor > 0),
    pricing_amount rate,
    pricing_overhead_share share,
    pricing_profit_share share,
    commission share NOT NULL CHECK (commission < 1),
    price amount,
    price_set_on date,
    PRIMARY KEY (recipe, id),
    CHECK (price_set_on IS NULL OR price IS NOT NULL)
);

CREATE TABLE serving_line (
    recipe ref NOT NULL,
    serving ref NOT NULL,
    role text NOT NULL CHECK (role IN ('garnish', 'accompaniments', 'packaging')),
    position integer NOT NULL,
    id ref,
    item ref REFERENCES item,
    uses_recipe ref REFERENCES recipe,
    quantity quantity_text NOT NULL,
    basis text NOT NULL CHECK (basis IN ('AP', 'EP')),
    preparation text[] NOT NULL DEFAULT '{}',
    cook_yield yield_factor,
    PRIMARY KEY (recipe, serving, role, position),
    FOREIGN KEY (recipe, serving) REFERENCES serving ON DELETE CASCADE,
    CHECK (num_nonnulls(item, uses_recipe) = 1)
);

CREATE TABLE recipe_revision (
    recipe ref NOT NULL,
    revision integer NOT NULL CHECK (revision >= 1),
    body jsonb,
    saved_at timestamptz NOT NULL DEFAULT now(),
    saved_by label NOT NULL,
    PRIMARY KEY (recipe, revision)
);
COMMENT ON COLUMN recipe_revision.body IS 'the whole recipe as in the kitchen document; null where it was taken off';
CREATE TRIGGER recipe_revision_is_append_only BEFORE UPDATE OR DELETE ON recipe_revision
    FOR EACH ROW EXECUTE FUNCTION refuse_change();
