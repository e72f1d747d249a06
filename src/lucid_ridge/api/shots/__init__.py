"""Shots, their plans, the composition bench, the solver, and field cards."""
