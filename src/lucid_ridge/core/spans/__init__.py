"""Time: instants, spans, and finding when a smooth condition holds. Light and tides stand upon it."""
