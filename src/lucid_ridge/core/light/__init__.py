"""The sun, its events, and the light it gives."""
