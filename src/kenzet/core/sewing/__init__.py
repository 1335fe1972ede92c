"""At the machine: what is sewn, what is left, and the next step."""
