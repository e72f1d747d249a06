"""Outings with their stops and cards."""
