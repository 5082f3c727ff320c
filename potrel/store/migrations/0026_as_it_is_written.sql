-- What a written recipe says it makes, and what a reader of paper ticked that stays in the sieve: nobody has said that yet.
-- What is taken out may weigh what its cooking left, without a factor.
-- depends: 0025_in_the_oven

ALTER TABLE recipe
    ADD COLUMN written_quantity quantity_text,
    ADD COLUMN written_quantity_amount quantity_amount,
    ADD COLUMN written_quantity_unit quantity_unit,
    ADD CHECK ((written_quantity IS NULL) = (written_quantity_amount IS NULL)),
    ADD CHECK ((written_quantity IS NULL) = (written_quantity_unit IS NULL));
ALTER TABLE take_out
    ADD COLUMN assumed boolean NOT NULL DEFAULT false,
    DROP CONSTRAINT take_out_check1,
    ADD CONSTRAINT take_out_spent_of CHECK (spent_factor IS NULL OR cardinality(of_lines) > 0);
