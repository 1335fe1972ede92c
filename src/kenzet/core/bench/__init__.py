"""The ruler bench: what lies under a ruler as it lies, and where it lies for a line."""
