"""HTTP to core values and back; views never compute."""
