"""The ruler bench: what is under a ruler wherever it is placed, and where it is placed for a planned line."""
