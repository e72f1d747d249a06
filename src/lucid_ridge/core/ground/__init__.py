"""The ground: distances and bearings, tracks, walks."""
