"""Plane geometry for regions, straight families and echoes; float millimetres, y up."""
