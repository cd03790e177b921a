-- Logs of loggers and instruments: what was measured over time, and of which part.

CREATE TABLE log (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    design_id   uuid NOT NULL REFERENCES design (id),
    name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    subject     text NOT NULL,
    begins_at   timestamptz,
    rows        integer NOT NULL DEFAULT 0,
    ends_s      double precision NOT NULL DEFAULT 0,
    created_at  timestamptz NOT NULL DEFAULT now(),
    deleted_at  timestamptz
);
CREATE INDEX log_of_design ON log (design_id, created_at);

-- Seconds since the first row; volts, amps out of the battery, watts, share, °C.
CREATE TABLE log_row (
    log_id      uuid NOT NULL REFERENCES log (id) ON DELETE CASCADE,
    at_s        double precision NOT NULL,
    volts       real,
    amps        real,
    watts       real,
    charge      real,
    air_c       real
);
CREATE INDEX log_row_in_time ON log_row (log_id, at_s);
