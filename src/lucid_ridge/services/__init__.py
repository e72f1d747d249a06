"""Clients of services on the network: what they answer may be late, wrong, missing or nothing at all."""
