"""The run, the day, the peak demand and the sizing."""
