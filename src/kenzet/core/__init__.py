"""The rules and the computation of the craft. See README.md beside this file."""
