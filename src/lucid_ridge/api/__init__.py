"""HTTP: blueprints that parse, call an operation and dump. One commit a request."""

from .platform import answers as answers
