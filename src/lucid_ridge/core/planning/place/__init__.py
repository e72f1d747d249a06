"""Step 1, place: the tripod position, its elements, the approach and the season."""
