"""What is marked on the quilt before it is sewn, and how it is measured."""
