"""Lucid Ridge: the planning bench and field notebook of a photographer."""

__version__ = "0.24.0"
