"""In the field: events, changes against the plan, and the next frame."""
