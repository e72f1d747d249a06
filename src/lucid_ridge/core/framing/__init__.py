"""What the sensor sees: projection, fields of view, outlines."""
