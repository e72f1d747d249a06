"""The windows of light of a date, and what another date would offer."""
