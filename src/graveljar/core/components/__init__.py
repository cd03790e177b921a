"""Each part by itself: battery, stage, load, cable, fuse."""
