-- Forms in which one need can be met, kept to be compared again.
-- depends: 0006_bench_tests

CREATE TABLE comparison (
    id ref PRIMARY KEY,
    position integer NOT NULL,
    name label NOT NULL,
    unit text NOT NULL CHECK (unit IN ('kg', 'l')),
    forms text[] NOT NULL CHECK (cardinality(forms) BETWEEN 1 AND 12)
);
COMMENT ON COLUMN comparison.forms IS 'as in the kitchen document; what a form names may be gone by now';
