-- Names a person gave to revisions. Beside the revisions, which never change.

CREATE TABLE revision_name (
    design_id   uuid NOT NULL,
    number      integer NOT NULL,
    name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    PRIMARY KEY (design_id, number),
    FOREIGN KEY (design_id, number) REFERENCES revision (design_id, number)
);
