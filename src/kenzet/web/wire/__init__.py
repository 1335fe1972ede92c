"""What goes over the wire: models, and how they are filled from core values and words."""
