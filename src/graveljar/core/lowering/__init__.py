"""From a design to the arrays that the kernel runs."""
