"""Shots: editing them, their facts and plans, framings, the solver, and field cards."""
