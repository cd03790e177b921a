-- The shelf: a user's parts. A design keeps its own copy with the revision it was made from.

CREATE TABLE part (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    revision    integer NOT NULL DEFAULT 1 CHECK (revision >= 1),
    document    jsonb NOT NULL
                CHECK (document ->> 'kind' IN ('battery', 'inverter', 'converter')),
    saved_at    timestamptz NOT NULL DEFAULT now(),
    deleted_at  timestamptz
);
