"""From a quilt to its plan: the lines of every zone. The entry point is ``planner``."""
