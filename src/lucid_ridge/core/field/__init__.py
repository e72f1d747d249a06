"""Out with the plan: what happens, what differs, and the frame that comes next."""
