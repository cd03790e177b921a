"""From a design to the flat arrays that the kernel runs."""
