"""Measures a sewn block from a photograph: which lines are seen, and how far each is from its plan."""
