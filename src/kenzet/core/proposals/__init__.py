"""Whole plans for a quilt: a fill for every zone, chosen together."""
