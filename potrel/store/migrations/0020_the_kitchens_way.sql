-- How a kitchen writes days and decimals, and the units in which it is shown mass and volume.
-- depends: 0019_forms_of_lists

ALTER TABLE kitchen
    ADD COLUMN date_style text NOT NULL DEFAULT 'day_first' CHECK (date_style IN ('day_first', 'month_first', 'year_first')),
    ADD COLUMN decimal_sign text NOT NULL DEFAULT 'point' CHECK (decimal_sign IN ('point', 'comma')),
    ADD COLUMN shown_units text NOT NULL DEFAULT 'metric' CHECK (shown_units IN ('metric', 'us'));
