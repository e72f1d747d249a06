"""Health, markings, preferences, undo and archives."""
