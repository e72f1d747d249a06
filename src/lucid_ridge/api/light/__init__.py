"""The light of days and years."""
