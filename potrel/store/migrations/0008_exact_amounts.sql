-- Amounts as the kitchen document carries them: at most 12 digits before the point and 12 behind it, and always a number.
-- What was recorded with more places is rounded to them. Ids of offers and credits come from one sequence.
-- depends: 0007_comparisons

CREATE DOMAIN exact AS numeric CHECK (scale(VALUE) <= 12 AND abs(VALUE) < 1000000000000);

ALTER TABLE offer DISABLE TRIGGER USER;
UPDATE offer SET price = round(price, 12) WHERE scale(price) > 12;
UPDATE offer SET delivered = round(delivered, 12) WHERE scale(delivered) > 12;
ALTER TABLE offer ENABLE TRIGGER USER;
ALTER TABLE credit DISABLE TRIGGER USER;
UPDATE credit SET amount = round(amount, 12) WHERE scale(amount) > 12;
UPDATE credit SET packs = round(packs, 12) WHERE scale(packs) > 12;
ALTER TABLE credit ENABLE TRIGGER USER;
UPDATE preparation_byproduct SET share = trunc(share, 12) WHERE scale(share) > 12;
UPDATE preparation SET minutes_per_kg = round(minutes_per_kg, 12) WHERE scale(minutes_per_kg) > 12;

ALTER DOMAIN amount ADD CONSTRAINT amount_is_exact CHECK (scale(VALUE) <= 12 AND VALUE < 1000000000000);
ALTER DOMAIN share ADD CONSTRAINT share_is_exact CHECK (scale(VALUE) <= 12);
ALTER DOMAIN positive_share ADD CONSTRAINT positive_share_is_exact CHECK (scale(VALUE) <= 12);
ALTER DOMAIN yield_factor ADD CONSTRAINT yield_factor_is_exact CHECK (scale(VALUE) <= 12);
ALTER DOMAIN rate ADD CONSTRAINT rate_is_exact CHECK (scale(VALUE) <= 12 AND VALUE < 1000000000000);
ALTER DOMAIN density ADD CONSTRAINT density_is_exact CHECK (scale(VALUE) <= 12);
ALTER DOMAIN minutes ADD CONSTRAINT minutes_is_exact CHECK (scale(VALUE) <= 12);

ALTER TABLE kitchen ALTER COLUMN price_ending_step TYPE exact;
ALTER TABLE kitchen ADD CHECK (price_ending_cents IS NULL OR price_ending_cents::share[] IS NOT NULL);
ALTER TABLE item ALTER COLUMN ready_litres_per_kg TYPE exact;
ALTER TABLE preparation ALTER COLUMN value_per_kg TYPE exact;
ALTER TABLE preparation_byproduct ALTER COLUMN value_per_kg TYPE exact;
ALTER TABLE stage ALTER COLUMN temperature_c TYPE exact;
ALTER TABLE stage ALTER COLUMN value_per_kg TYPE exact;
ALTER TABLE take_out ALTER COLUMN value_per_kg TYPE exact;
ALTER TABLE serving ALTER COLUMN pricing_factor TYPE exact;
ALTER TABLE offer ALTER COLUMN delivered TYPE exact;
ALTER TABLE credit ALTER COLUMN packs TYPE exact;
ALTER TABLE bench_test_part ALTER COLUMN value_per_kg TYPE exact;

CREATE SEQUENCE given_id;
DO 'BEGIN
    PERFORM setval(''given_id'', greatest(1,
        (SELECT max(substring(id FROM ''[0-9]+$'')::bigint) FROM offer WHERE id ~ ''^o-[0-9]{1,18}$''),
        (SELECT max(substring(id FROM ''[0-9]+$'')::bigint) FROM credit WHERE id ~ ''^c-[0-9]{1,18}$'')));
END';
