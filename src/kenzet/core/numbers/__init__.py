"""Lengths and counting: exact, in the person's unit."""
