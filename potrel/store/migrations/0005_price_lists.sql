-- Suppliers' lists: what was read, what a person said of it, and the offers and credits that came of it.
-- depends: 0004_usable_kilo

CREATE DOMAIN sha256 AS bytea CHECK (octet_length(VALUE) = 32);

ALTER TABLE supplier ADD COLUMN columns jsonb NOT NULL DEFAULT '{}';
ALTER TABLE supplier ADD COLUMN passed_over text[] NOT NULL DEFAULT '{}';
ALTER TABLE supplier ADD COLUMN catalogue_url text CHECK (catalogue_url ~ '^https?://');
ALTER TABLE supplier ADD COLUMN fetch_at text CHECK (fetch_at ~ '^([01][0-9]|2[0-3]):[0-5][0-9]$');
ALTER TABLE supplier ADD COLUMN fetched_on date;
ALTER TABLE supplier ADD COLUMN fetch_problem text;
COMMENT ON COLUMN supplier.fetched_on IS 'the day on which its list was last fetched by the clock, by whichever process came first';
ALTER TABLE supplier ADD CHECK (fetch_at IS NULL OR catalogue_url IS NOT NULL);

CREATE TABLE price_list (
    number bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    file_name label NOT NULL,
    digest sha256 NOT NULL UNIQUE,
    content bytea NOT NULL,
    kind text NOT NULL CHECK (kind IN ('price_list', 'delivery', 'credit_note')),
    document label,
    supplier ref REFERENCES supplier,
    choices jsonb NOT NULL DEFAULT '{}',
    state text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'recorded', 'undone')),
    read_at timestamptz NOT NULL DEFAULT now(),
    read_by label NOT NULL,
    settled_at timestamptz,
    settled_by label,
    prices integer NOT NULL DEFAULT 0 CHECK (prices >= 0),
    CHECK ((state = 'open') = (settled_at IS NULL)),
    CHECK ((settled_at IS NULL) = (settled_by IS NULL)),
    CHECK (state <> 'recorded' OR supplier IS NOT NULL)
);
-- Files are kept as they came; packing them would take longer than reading them.
ALTER TABLE price_list ALTER COLUMN content SET STORAGE EXTERNAL;
COMMENT ON COLUMN price_list.document IS 'the number that the supplier gave the document';
COMMENT ON COLUMN price_list.choices IS 'what a person said: of columns, of the kind, and of lines by their place';

ALTER TABLE offer ADD COLUMN code label;
ALTER TABLE offer ADD COLUMN gtin text CHECK (gtin ~ '^([0-9]{8}|[0-9]{12,14})$');
ALTER TABLE offer ADD COLUMN source label;
ALTER TABLE offer ADD COLUMN delivered numeric CHECK (delivered > 0);
ALTER TABLE offer ADD COLUMN withdrawn boolean NOT NULL DEFAULT false CHECK (NOT withdrawn OR corrects IS NOT NULL);
ALTER TABLE offer ADD COLUMN price_list bigint REFERENCES price_list;
CREATE INDEX offer_by_price_list ON offer (price_list) WHERE price_list IS NOT NULL;

CREATE TABLE credit (
    number bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    id ref NOT NULL UNIQUE,
    item ref NOT NULL REFERENCES item,
    supplier ref NOT NULL REFERENCES supplier,
    pack label NOT NULL,
    packs numeric NOT NULL CHECK (packs > 0),
    amount amount NOT NULL,
    credited_on date NOT NULL,
    goods_back boolean NOT NULL,
    source label,
    withdraws ref REFERENCES credit (id) CHECK (withdraws <> id),
    price_list bigint REFERENCES price_list,
    recorded_at timestamptz NOT NULL DEFAULT now(),
    recorded_by label NOT NULL
);
CREATE TRIGGER credit_is_append_only BEFORE UPDATE OR DELETE ON credit
    FOR EACH ROW EXECUTE FUNCTION refuse_change();

-- A change that took a serving past its target food cost, until somebody has looked at it.
CREATE TABLE pushed_past (
    recipe ref NOT NULL,
    serving ref NOT NULL,
    why label NOT NULL,
    at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (recipe, serving),
    FOREIGN KEY (recipe, serving) REFERENCES serving ON DELETE CASCADE
);
