-- How dark a roux is, what salt a preparation leaves, and what of a thing is bone: what a pot holds hangs on them.
-- depends: 0027_what_came_out

CREATE DOMAIN roux AS text CHECK (VALUE IN ('white', 'blond', 'brown', 'dark'));
ALTER TABLE line ADD COLUMN roux roux;
ALTER TABLE consumable ADD COLUMN roux roux;
ALTER TABLE serving_line ADD COLUMN roux roux;
ALTER TABLE channel_line ADD COLUMN roux roux;
ALTER TABLE stage ADD COLUMN roux roux;
ALTER TABLE preparation ADD COLUMN salt_kept share;
ALTER TABLE item ADD COLUMN bone_share share;
