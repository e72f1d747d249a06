"""The light of days and years: windows, alignments, seasons, calendars."""
