-- How what is cooked is sold: channels, the schools' terms, prices that come, add-ons, meal deals, what was sold, and who set
-- which price when and why.
-- depends: 0022_how_sure

ALTER TABLE kitchen
    ADD COLUMN overhead_per_attended_hour rate,
    ADD COLUMN overhead_per_portion rate,
    ADD COLUMN overhead_share_of_sales share CHECK (overhead_share_of_sales < 1),
    ADD COLUMN fixed_cost_per_week rate,
    ADD COLUMN open_days_per_week exact NOT NULL DEFAULT 5 CHECK (open_days_per_week > 0 AND open_days_per_week <= 7),
    ADD CHECK (num_nonnulls(overhead_rate_per_hour, overhead_per_attended_hour, overhead_per_portion, overhead_share_of_sales) <= 1);

CREATE TABLE channel (
    id ref PRIMARY KEY,
    position integer NOT NULL,
    name label NOT NULL,
    tax_rate share,
    commission share NOT NULL CHECK (commission < 1),
    commission_of text CHECK (commission_of IN ('net', 'gross')),
    ending text NOT NULL CHECK (ending IN ('kitchen', 'none', 'own')),
    price_ending_step exact CHECK (price_ending_step > 0),
    price_ending_cents numeric[],
    subsidy rate NOT NULL,
    deposit amount,
    CHECK (commission = 0 OR commission_of IS NOT NULL),
    CHECK ((ending = 'own') = (num_nonnulls(price_ending_step, price_ending_cents) = 1))
);

CREATE TABLE channel_line (
    channel ref NOT NULL REFERENCES channel ON DELETE CASCADE,
    position integer NOT NULL,
    id ref,
    item ref REFERENCES item,
    uses_recipe ref REFERENCES recipe,
    quantity quantity_text NOT NULL,
    quantity_amount amount NOT NULL,
    quantity_unit text NOT NULL,
    basis text NOT NULL CHECK (basis IN ('AP', 'EP')),
    preparation text[] NOT NULL DEFAULT '{}',
    cook_yield yield_factor,
    byproduct label,
    loss_to text CHECK (loss_to IN ('air', 'pot')),
    note text CHECK (char_length(note) BETWEEN 1 AND 200),
    taken_by positive_share NOT NULL DEFAULT 1,
    by_eye text CHECK (by_eye IN ('cover', 'thin')),
    surcharge amount,
    PRIMARY KEY (channel, position),
    CHECK (num_nonnulls(item, uses_recipe) = 1)
);

-- The kitchen's terms where no recipe is named.
CREATE TABLE pricing (
    recipe ref REFERENCES recipe ON DELETE CASCADE,
    method text NOT NULL CHECK (method IN ('food_cost_share', 'factor', 'contribution', 'prime_cost_share', 'full_cost')),
    position integer NOT NULL,
    share positive_share,
    factor exact CHECK (factor > 0),
    amount rate,
    overhead_share share,
    profit_share share,
    UNIQUE NULLS NOT DISTINCT (recipe, method)
);

ALTER TABLE recipe ADD COLUMN prep_minutes boolean NOT NULL DEFAULT false;
ALTER TABLE line ADD COLUMN surcharge amount;
ALTER TABLE consumable ADD COLUMN surcharge amount;
ALTER TABLE serving_line ADD COLUMN surcharge amount;
ALTER TABLE serving_line DROP CONSTRAINT serving_line_role_check;
ALTER TABLE serving_line
    ADD CONSTRAINT serving_line_role_check CHECK (role IN ('garnish', 'accompaniments', 'packaging', 'add_ons'));
ALTER TABLE serving
    ADD COLUMN coming_price amount,
    ADD COLUMN coming_on date,
    ADD CHECK ((coming_price IS NULL) = (coming_on IS NULL));

CREATE TABLE serving_channel (
    recipe ref NOT NULL,
    serving ref NOT NULL,
    position integer NOT NULL,
    channel ref NOT NULL REFERENCES channel,
    price amount,
    price_set_on date,
    coming_price amount,
    coming_on date,
    PRIMARY KEY (recipe, serving, channel),
    FOREIGN KEY (recipe, serving) REFERENCES serving (recipe, id) ON DELETE CASCADE,
    CHECK (price_set_on IS NULL OR price IS NOT NULL),
    CHECK ((coming_price IS NULL) = (coming_on IS NULL))
);

CREATE TABLE deal (
    id ref PRIMARY KEY,
    position integer NOT NULL,
    name label NOT NULL,
    price amount,
    price_set_on date,
    channel ref REFERENCES channel,
    CHECK (price_set_on IS NULL OR price IS NOT NULL)
);
CREATE TABLE deal_part (
    deal ref NOT NULL REFERENCES deal ON DELETE CASCADE,
    position integer NOT NULL,
    recipe ref REFERENCES recipe,
    serving ref,
    item ref REFERENCES item,
    line jsonb,
    price amount,
    PRIMARY KEY (deal, position),
    CHECK ((recipe IS NULL) <> (line IS NULL)),
    CHECK ((recipe IS NULL) = (serving IS NULL))
);
COMMENT ON COLUMN deal_part.line IS 'as in the kitchen document; item is the one that it names';
CREATE TRIGGER deal_changed AFTER INSERT OR UPDATE OR DELETE ON deal
    FOR EACH STATEMENT EXECUTE FUNCTION note_change('settings', '');

-- What was sold: a week by the day on which it begins. It is a history, and no part of the kitchen document.
CREATE TABLE sale (
    recipe ref NOT NULL,
    serving ref NOT NULL,
    channel text NOT NULL,
    week date NOT NULL CHECK (extract(isodow FROM week) = 1),
    portions exact NOT NULL CHECK (portions >= 0 AND portions <= 1000000),
    noted_by label NOT NULL,
    PRIMARY KEY (recipe, serving, channel, week)
);
COMMENT ON COLUMN sale.channel IS 'empty for the kitchen''s own; no references: what was sold stays told when a pot is off the list';

-- Who set which price: a round is what was set, and can be taken back, at once.
CREATE TABLE price_round (
    number bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    at timestamptz NOT NULL DEFAULT now(),
    set_by label NOT NULL,
    holds_from date NOT NULL,
    reason text CHECK (char_length(reason) BETWEEN 1 AND 200),
    taken_back_at timestamptz,
    taken_back_by label
);
CREATE TABLE price_change (
    round bigint NOT NULL REFERENCES price_round ON DELETE CASCADE,
    position integer NOT NULL,
    recipe ref NOT NULL,
    recipe_name label NOT NULL,
    serving ref NOT NULL,
    serving_name label NOT NULL,
    channel text NOT NULL,
    channel_name text NOT NULL,
    before jsonb NOT NULL,
    after jsonb NOT NULL,
    was amount,
    price amount,
    cost numeric,
    method text,
    PRIMARY KEY (round, position)
);
COMMENT ON COLUMN price_change.before IS 'the prices of the serving in the channel as they stood: price, price_set_on, coming';
CREATE INDEX price_change_of ON price_change (recipe, serving);
