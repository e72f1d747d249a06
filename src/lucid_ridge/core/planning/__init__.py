"""The seven steps of a shot, each judged from the facts known so far."""
