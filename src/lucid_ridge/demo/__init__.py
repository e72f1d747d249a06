"""The Corran country: an invented upland and coast, and two places for the extremes. No real place, person or brand."""
