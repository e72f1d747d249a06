"""Share links."""
