"""Step 6, sequence: groups of frames, their order and timing, and the battery and card they use."""
