"""Frames as they were taken: which planned frame each is, what they belong to, and what their pixels say."""
