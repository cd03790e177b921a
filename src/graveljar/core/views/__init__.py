"""What the screens show, made from the analysis."""
