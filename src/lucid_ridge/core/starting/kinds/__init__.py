"""The kinds of picture, one file each."""
