"""Demo quilts, as plan files; our own invention."""
