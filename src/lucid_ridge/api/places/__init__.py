"""Locations, viewpoints, elements, and their files."""
