"""What is drawn on the quilt before it is sewn, and how it is measured off."""
