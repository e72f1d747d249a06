"""Quantities as the trade writes them, and array helpers."""
