"""Rows to core values and back: functions that take a connection, with their SQL in view."""
