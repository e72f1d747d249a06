"""Use cases, one package per subject. They take a session and an owner, flush, and never commit."""
