"""Tides: harmonic prediction, high and low water, spans of wanted depth."""
