"""Answers at the tripod: the place and the kit they are computed with."""
