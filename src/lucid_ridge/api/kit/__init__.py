"""Bodies, lenses, filters, supports and accessories."""
