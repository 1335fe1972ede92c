"""What she decides by feel, as figures: how firm it gets, what stands up, what the eye sees first, whether the thread shows."""
