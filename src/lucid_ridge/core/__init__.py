"""The job itself: pure functions and frozen dataclasses. No I/O, no clock, no HTTP, no database."""
