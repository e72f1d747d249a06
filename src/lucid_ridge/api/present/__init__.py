"""From rows and core results to response bodies."""
