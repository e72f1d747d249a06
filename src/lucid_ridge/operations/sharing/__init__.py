"""Share links to cards, outings and locations, and copies made from them."""
