"""HTTP: blueprints that parse, call an operation and dump. One commit a request."""

from . import answers as answers
