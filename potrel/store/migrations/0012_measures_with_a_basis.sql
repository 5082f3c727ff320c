-- A measure is of the thing as purchased or ready to use, with its band and where its weight is from.
-- depends: 0011_quantities

ALTER TABLE measure
    ADD COLUMN basis text NOT NULL DEFAULT 'AP' CHECK (basis IN ('AP', 'EP')),
    ADD COLUMN low text,
    ADD COLUMN low_amount quantity_amount,
    ADD COLUMN low_unit quantity_unit,
    ADD COLUMN high text,
    ADD COLUMN high_amount quantity_amount,
    ADD COLUMN high_unit quantity_unit,
    ADD COLUMN source text,
    ADD CHECK ((low IS NULL) = (low_amount IS NULL) AND (low IS NULL) = (low_unit IS NULL)),
    ADD CHECK ((high IS NULL) = (high_amount IS NULL) AND (high IS NULL) = (high_unit IS NULL));
