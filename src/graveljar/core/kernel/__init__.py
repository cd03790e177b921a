"""The compiled kernel that runs a design hour by hour."""
