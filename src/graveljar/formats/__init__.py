"""Open formats in and out: parts and runs as CSV."""
