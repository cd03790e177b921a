"""The job itself: rules and computation. No web, no database, no files, no clock."""
