"""Lenses, depth of field, blur and focus stacks."""
