"""What each part does by itself: battery, stage, load, cable, fuse, joint."""
