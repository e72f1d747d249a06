"""Forecasts of the weather, and what they promise for a picture."""
