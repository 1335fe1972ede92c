"""A sewn block measured from a photograph: which lines are seen, and how far each lies from its plan."""
