"""Bodies of requests and responses about shots."""
