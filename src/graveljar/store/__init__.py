"""Keeps designs in PostgreSQL: plain SQL, an append-only table of revisions."""
