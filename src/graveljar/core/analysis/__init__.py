"""What is worked out about a design: its run, its day, its peak demand, its sizing."""
