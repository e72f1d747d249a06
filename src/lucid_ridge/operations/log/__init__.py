"""The log: field events, entries with their frames, what is learned from them, and practice."""
