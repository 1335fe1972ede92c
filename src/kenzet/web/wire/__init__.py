"""The models of requests and answers, and how they are filled from core values and words."""
