-- What is cooked in an oven, whatever vessel it stands in. A flame that nobody said anything of is no flame turned up on purpose.
-- depends: 0024_a_kitchen_with_a_past

ALTER TABLE stage
    ADD COLUMN in_oven boolean NOT NULL DEFAULT false,
    ALTER COLUMN power_share DROP NOT NULL,
    ALTER COLUMN power_share DROP DEFAULT;
UPDATE stage SET power_share = NULL WHERE power_share = 1;
