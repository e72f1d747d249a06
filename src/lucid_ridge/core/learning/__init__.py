"""What the log teaches: rates with intervals, costs from pairs, and when a calibration is proposed."""
