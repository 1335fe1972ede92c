"""Bytes to core values and back: one file for each reader or writer."""
