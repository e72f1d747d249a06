"""The notebook as a whole: its pages, which place to go to, and archives."""
