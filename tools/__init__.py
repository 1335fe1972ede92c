"""What is run by hand or by the two commands; not part of the app."""
