"""How each figure of a plan comes about: formula, numbers, where they came from, assumption, source."""
