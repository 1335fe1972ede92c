"""The sewing route: where to begin, along which seam to travel to the next line, where the thread must be cut."""
