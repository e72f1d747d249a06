"""Answers at the tripod without a shot: light, filters, depth, close-up, brackets, water, stars.

Each by the rules that plan a shot.
"""
