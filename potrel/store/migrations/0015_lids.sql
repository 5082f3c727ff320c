-- A lid can be sealed, or come off towards the end.
-- depends: 0014_notes_of_lines

ALTER TABLE stage DROP CONSTRAINT stage_lid_check;
ALTER TABLE stage ADD CONSTRAINT stage_lid_check CHECK (lid IN ('on', 'off', 'ajar', 'sealed', 'covered_then_open'));
