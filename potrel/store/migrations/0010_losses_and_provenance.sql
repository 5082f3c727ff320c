-- Where a cooking loss goes, what of it renders, and what a yield rests on.
-- depends: 0009_change_log

ALTER TABLE cooking ADD COLUMN loss_to text CHECK (loss_to IN ('air', 'pot'));
ALTER TABLE cooking ADD COLUMN rendered share NOT NULL DEFAULT 0;
ALTER TABLE line ADD COLUMN loss_to text CHECK (loss_to IN ('air', 'pot'));
ALTER TABLE serving_line ADD COLUMN loss_to text CHECK (loss_to IN ('air', 'pot'));
COMMENT ON COLUMN cooking.loss_to IS 'where that is not as the method says by itself';

ALTER TABLE preparation ADD COLUMN rests_on text CHECK (rests_on IN ('book', 'own_tests', 'blend', 'logs', 'estimate'));
ALTER TABLE preparation ADD COLUMN rests_on_tests integer CHECK (rests_on_tests >= 0);
ALTER TABLE preparation ADD COLUMN rests_on_day date;
ALTER TABLE preparation ADD COLUMN leans_on label;
ALTER TABLE preparation ADD CHECK ((leans_on IS NOT NULL) = (rests_on IS NOT DISTINCT FROM 'blend'));
ALTER TABLE cooking ADD COLUMN rests_on text CHECK (rests_on IN ('book', 'own_tests', 'blend', 'logs', 'estimate'));
ALTER TABLE cooking ADD COLUMN rests_on_tests integer CHECK (rests_on_tests >= 0);
ALTER TABLE cooking ADD COLUMN rests_on_day date;
ALTER TABLE cooking ADD COLUMN leans_on label;
ALTER TABLE cooking ADD CHECK ((leans_on IS NOT NULL) = (rests_on IS NOT DISTINCT FROM 'blend'));
COMMENT ON COLUMN preparation.rests_on IS 'null where the words of its source say it';
