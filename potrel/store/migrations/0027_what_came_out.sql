-- What came out of a stage when somebody weighed or dipped it, and what went up of a vessel by that.
-- depends: 0026_as_it_is_written

ALTER TABLE stage
    ADD COLUMN came_out quantity_text,
    ADD COLUMN came_out_amount quantity_amount,
    ADD COLUMN came_out_unit quantity_unit,
    ADD COLUMN came_out_cm exact CHECK (came_out_cm > 0),
    ADD COLUMN came_out_on date,
    ADD CHECK ((came_out IS NULL) = (came_out_amount IS NULL) AND (came_out IS NULL) = (came_out_unit IS NULL)),
    ADD CHECK (num_nonnulls(came_out, came_out_cm) = num_nonnulls(came_out_on));
CREATE TABLE vessel_rate (
    vessel ref NOT NULL REFERENCES vessel ON DELETE CASCADE,
    position integer NOT NULL,
    lid text NOT NULL CHECK (lid IN ('on', 'off', 'ajar', 'sealed', 'covered_then_open')),
    heat text NOT NULL CHECK (heat IN ('hold', 'bare_simmer', 'simmer', 'boil')),
    kg_per_hour rate NOT NULL,
    measured_on date NOT NULL,
    PRIMARY KEY (vessel, position)
);
