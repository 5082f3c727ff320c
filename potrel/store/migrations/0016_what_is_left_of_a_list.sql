-- Lines left out of a recorded list can be recorded later; a mark of a pot past its target goes with what caused it.
-- depends: 0015_lids

ALTER TABLE price_list ADD COLUMN taken integer[];
COMMENT ON COLUMN price_list.taken IS 'the places of the lines that were recorded; null where that was not noted yet';
ALTER TABLE pushed_past ADD COLUMN causes text[] NOT NULL DEFAULT '{}';
COMMENT ON COLUMN pushed_past.causes IS 'what pushed it: ids of prices, "list 12", "item leek"; the mark goes when one is taken back';
