"""Lucid Ridge: the planning bench and field notebook of a photographer."""

__version__ = "0.26.0"
