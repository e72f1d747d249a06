"""Step 2, light: which light a shot has at its time, how it changes, and light the photographer brings."""
