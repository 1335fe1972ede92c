"""The log: what was sewn, by sitting and by block, what it teaches, and what is left to finish."""
