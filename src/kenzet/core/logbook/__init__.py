"""What was sewn, sitting by sitting and block by block, and what is left to finish."""
