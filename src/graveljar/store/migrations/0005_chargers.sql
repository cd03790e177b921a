-- Chargers and solar panels stand on the shelf too.

ALTER TABLE part DROP CONSTRAINT part_document_check;
ALTER TABLE part ADD CONSTRAINT part_document_check CHECK (
    document ->> 'kind' IN ('battery', 'inverter', 'converter', 'station', 'charger', 'panel')
);
