"""Days and years of light as response bodies."""
