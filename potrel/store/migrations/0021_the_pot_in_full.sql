-- What steams, heats, salts, thickens and feeds: vessels with their surface and power, stages with their heat, items with what
-- they hold and come from, liquid by eye, what only some guests take, what a batch uses up, soups that stand hot.
-- depends: 0020_the_kitchens_way

ALTER TABLE kitchen
    ADD COLUMN altitude_m exact NOT NULL DEFAULT 0 CHECK (altitude_m BETWEEN -500 AND 6000),
    ADD COLUMN room_c exact NOT NULL DEFAULT 25 CHECK (room_c BETWEEN 0 AND 60),
    ADD COLUMN relative_humidity share NOT NULL DEFAULT 0.5,
    ADD COLUMN air_speed exact NOT NULL DEFAULT 0.1 CHECK (air_speed BETWEEN 0 AND 5),
    ADD COLUMN salt_target exact NOT NULL DEFAULT 0.007 CHECK (salt_target > 0 AND salt_target < 1),
    ADD COLUMN lid_off share NOT NULL DEFAULT 1,
    ADD COLUMN lid_ajar share NOT NULL DEFAULT 0.5,
    ADD COLUMN lid_on share NOT NULL DEFAULT 0.1;

ALTER TABLE vessel
    ADD COLUMN surface_m2 exact CHECK (surface_m2 > 0 AND surface_m2 <= 20),
    ADD COLUMN diameter_cm exact CHECK (diameter_cm > 0 AND diameter_cm <= 500),
    ADD COLUMN power_kw exact CHECK (power_kw > 0 AND power_kw <= 500),
    ADD COLUMN heat_source text CHECK (heat_source IN ('gas', 'induction', 'electric', 'steam', 'oven')),
    ADD COLUMN efficiency positive_share,
    ADD COLUMN count exact NOT NULL DEFAULT 1 CHECK (count BETWEEN 1 AND 999 AND count % 1 = 0),
    ADD COLUMN cleanup_minutes minutes NOT NULL DEFAULT 0,
    ADD CHECK (surface_m2 IS NULL OR diameter_cm IS NULL),
    ADD CHECK (power_kw IS NULL OR heat_source IS NOT NULL OR efficiency IS NOT NULL);

ALTER TABLE item
    ADD COLUMN origin text[] NOT NULL DEFAULT '{}',
    ADD COLUMN thickening exact CHECK (thickening BETWEEN 0 AND 20),
    ADD COLUMN salt_g exact CHECK (salt_g BETWEEN 0 AND 100),
    ADD COLUMN energy_kcal exact CHECK (energy_kcal BETWEEN 0 AND 910),
    ADD COLUMN fat_g exact CHECK (fat_g BETWEEN 0 AND 100),
    ADD COLUMN saturates_g exact CHECK (saturates_g BETWEEN 0 AND 100),
    ADD COLUMN carbohydrate_g exact CHECK (carbohydrate_g BETWEEN 0 AND 100),
    ADD COLUMN sugars_g exact CHECK (sugars_g BETWEEN 0 AND 100),
    ADD COLUMN protein_g exact CHECK (protein_g BETWEEN 0 AND 100),
    ADD COLUMN fibre_g exact CHECK (fibre_g BETWEEN 0 AND 100),
    ADD COLUMN abv share,
    ADD COLUMN composition_source label;
-- Salt was a share by mass; it is told in 100 g, like all else that an item holds.
UPDATE item SET salt_g = salt_share * 100;
ALTER TABLE item DROP COLUMN salt_share;

CREATE TABLE consumable (
    recipe ref NOT NULL REFERENCES recipe ON DELETE CASCADE,
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
    PRIMARY KEY (recipe, position),
    CHECK (num_nonnulls(item, uses_recipe) = 1)
);

ALTER TABLE stage
    ADD COLUMN heat text CHECK (heat IN ('hold', 'bare_simmer', 'simmer', 'boil')),
    ADD COLUMN power_share positive_share NOT NULL DEFAULT 1,
    ADD COLUMN fat_layer boolean NOT NULL DEFAULT false,
    ADD COLUMN start_c exact CHECK (start_c BETWEEN -40 AND 400),
    ADD COLUMN open_minutes minutes,
    ADD COLUMN flamed boolean NOT NULL DEFAULT false,
    ADD COLUMN change_by text CHECK (change_by = 'vessel');
ALTER TABLE stage DROP CONSTRAINT stage_check1;
ALTER TABLE stage ADD CONSTRAINT stage_check1
    CHECK ((rule = 'evaporate') = (num_nonnulls(per_hour, kg_per_hour, change_by) = 1));

ALTER TABLE take_out ADD COLUMN dry boolean;

ALTER TABLE line ADD COLUMN taken_by positive_share NOT NULL DEFAULT 1, ADD COLUMN by_eye text CHECK (by_eye IN ('cover', 'thin'));
ALTER TABLE serving_line
    ADD COLUMN taken_by positive_share NOT NULL DEFAULT 1,
    ADD COLUMN by_eye text CHECK (by_eye IN ('cover', 'thin'));

ALTER TABLE serving
    ADD COLUMN hold_hours exact CHECK (hold_hours BETWEEN 0 AND 24),
    ADD COLUMN hold_vessel ref REFERENCES vessel,
    ADD COLUMN hold_lid text CHECK (hold_lid IN ('off', 'ajar', 'on')),
    ADD COLUMN hold_c exact NOT NULL DEFAULT 75 CHECK (hold_c BETWEEN 55 AND 98);
