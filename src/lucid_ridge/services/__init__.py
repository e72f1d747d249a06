"""Clients of network services, whose answers may be late, wrong or missing."""
