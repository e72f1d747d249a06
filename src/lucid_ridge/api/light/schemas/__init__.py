"""Bodies of requests and responses about light."""
