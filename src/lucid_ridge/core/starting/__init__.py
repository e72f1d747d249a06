"""A new shot from a kind of picture: its scene, light and wishes, and the settings that the solver finds for them."""
