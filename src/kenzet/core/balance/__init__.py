"""Figures for what is usually judged by feel: how firm the quilt gets, what stands up, what the eye sees first,
whether the thread shows."""
