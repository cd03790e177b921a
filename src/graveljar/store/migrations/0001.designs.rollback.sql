DROP TABLE revision;
DROP TABLE design;
DROP FUNCTION refuse_change();
