"""Answers at the tripod without a shot: a filter, depth, a bracket, stars. Each by the rules that plan a shot."""
