"""Small simulated services behind the interfaces of real ones."""
