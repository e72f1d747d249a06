"""Bodies of requests and responses of the log and the field."""
