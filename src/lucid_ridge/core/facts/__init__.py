"""What is known of a shot: its place, its kit and the photographer's choices, each value declared once."""
