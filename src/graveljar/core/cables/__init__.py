"""Cables, fuses, connectors, bus bars: needs and choices."""
