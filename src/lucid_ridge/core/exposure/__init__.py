"""Exposure values, filters, brackets, ledgers and motion in the image."""
