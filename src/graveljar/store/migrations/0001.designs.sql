-- Designs and their revisions. A revision is never changed: undo, history and
-- "nothing lost" rest on that, so the table itself refuses it.

CREATE TABLE design (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    head        integer NOT NULL CHECK (head >= 1),
    created_at  timestamptz NOT NULL DEFAULT now(),
    deleted_at  timestamptz
);

CREATE TABLE revision (
    design_id   uuid NOT NULL REFERENCES design (id),
    number      integer NOT NULL CHECK (number >= 1),
    document    jsonb NOT NULL CHECK (document ->> 'format' = 'gravel-jar/design'),
    saved_at    timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (design_id, number)
);

CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'revisions are append-only';
END
$$;

CREATE TRIGGER revision_is_append_only
    BEFORE UPDATE OR DELETE ON revision
    FOR EACH ROW EXECUTE FUNCTION refuse_change();
