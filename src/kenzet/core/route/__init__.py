"""The order that runs on: where to begin, along which seam to the next line, where the thread must end."""
