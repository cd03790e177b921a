"""Computing apart from serving and saving: the processes, their limits, and what they work out."""
