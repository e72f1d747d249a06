"""Answers at the tripod."""
