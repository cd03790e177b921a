"""Figures from outside: each table carries its source, conditions and how sure we are."""
