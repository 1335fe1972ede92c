"""The quilted cloth in relief: how high it stands between the stitches."""
