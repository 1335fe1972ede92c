"""Advice: fills that suit, contrast, lines that continue across blocks, the cost of a pinned end."""
