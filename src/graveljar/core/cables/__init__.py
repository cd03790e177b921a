"""Cables, fuses, connectors and bus bars: what each joint needs, and what it is given."""
