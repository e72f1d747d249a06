"""Outings: several shots and other stops on one or more days."""
