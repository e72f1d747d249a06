"""What cures a reason: the dial and the nearest value with which the judge drops it."""
