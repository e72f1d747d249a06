"""Photographers, accounts and their preferences."""
