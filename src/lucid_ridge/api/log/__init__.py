"""The log, practice, and events from the field."""
