"""The log as response bodies."""
