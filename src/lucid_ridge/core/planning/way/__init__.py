"""The way in and out: legs with their times, what closes them, and whether it is dark or dangerous."""
