"""Step 4, depth: where the lens is focused, how much is sharp, stacks, close-ups and how the camera is held."""
