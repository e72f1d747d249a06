"""Bodies, lenses, filters, supports and accessories, with what the log calibrated about them."""
