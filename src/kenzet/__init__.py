"""Kenzet: plan, place and mark machine quilting."""

__version__ = "0.1.0"
