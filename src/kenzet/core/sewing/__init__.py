"""Sewing it: what is sewn by now, what is left, and the next step at the machine."""
