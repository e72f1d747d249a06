"""What comes in and what goes out, apart."""
