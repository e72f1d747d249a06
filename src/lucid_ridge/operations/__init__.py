"""What can be done with the notebook: one module a resource. They take a session and an owner, flush, and never commit."""
