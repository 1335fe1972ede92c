"""From a quilt to its plan: the lines of every zone. planner is the way in."""
