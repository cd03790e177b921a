"""What could be built instead: changes, comparisons, search."""
