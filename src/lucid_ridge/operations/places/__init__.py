"""Locations with viewpoints, elements, hazards, tides, forecasts and skylines."""
