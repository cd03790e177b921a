"""Gravel Jar: sizes a battery bank and says how long things run, what stops first and why."""
