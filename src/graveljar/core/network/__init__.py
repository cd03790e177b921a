"""How parts are connected: rails, windows, schedule."""
