"""Shots and their plans as response bodies."""
