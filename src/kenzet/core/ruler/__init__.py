"""What a ruler's etched lines and a foot make together, what a line is laid from, and where the ruler lies."""
