"""What could be built instead: changes, comparisons, search over the shelf."""
