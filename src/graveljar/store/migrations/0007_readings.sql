-- The bench book: what was measured on a design. Judged anew by the design as it is.

CREATE TABLE reading (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    design_id   uuid NOT NULL REFERENCES design (id),
    document    jsonb NOT NULL,
    taken_at    timestamptz NOT NULL DEFAULT now(),
    deleted_at  timestamptz
);
CREATE INDEX reading_of_design ON reading (design_id, taken_at);
