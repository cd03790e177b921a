-- Cables and fuses are parts too: the price of a system counts them.

ALTER TABLE part DROP CONSTRAINT part_document_check;
ALTER TABLE part ADD CONSTRAINT part_document_check CHECK (
    document ->> 'kind' IN (
        'battery', 'inverter', 'converter', 'station', 'charger', 'panel', 'cable', 'fuse'
    )
);
