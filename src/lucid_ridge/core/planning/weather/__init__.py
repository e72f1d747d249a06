"""What the forecast means for a shot, and the alternative when the light fails."""
