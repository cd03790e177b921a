"""The engine: a design lowered to flat arrays, and a compiled kernel that runs its hours."""
