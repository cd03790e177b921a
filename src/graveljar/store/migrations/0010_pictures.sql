-- A picture beside a reading: how it was measured, what a plug looked like.

CREATE TABLE reading_picture (
    reading_id  uuid PRIMARY KEY REFERENCES reading (id) ON DELETE CASCADE,
    media       text NOT NULL CHECK (media IN ('image/png', 'image/jpeg')),
    data        bytea NOT NULL CHECK (octet_length(data) <= 8000000)
);
