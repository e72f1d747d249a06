"""Small simulated services behind the interfaces that real ones would fill."""
