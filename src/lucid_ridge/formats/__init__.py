"""Reads and writes files of other programs. Readers raise FormatError and change nothing."""
