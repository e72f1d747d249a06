"""Signing in and out, accounts and invitations."""
