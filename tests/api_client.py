"""A client of the API in tests: JSON in and out, and rows of the demo by name."""

from wire import field_on_the_wire, on_the_wire


class Api:
    """The test client with JSON in and out, and rows of the demo by name."""

    def __init__(self, client):
        self.client = client

    def call(self, method, path, body=None, expect=200, headers=None):
        answer = self.client.open(f"/api{path}", method=method, json=body, headers=headers)
        assert answer.status_code == expect, answer.get_data(as_text=True)
        return answer.get_json(silent=True)

    def get(self, path, expect=200):
        return self.call("GET", path, None, expect)

    def post(self, path, body, expect=201):
        return self.call("POST", path, body, expect)

    def put(self, path, body, expect=200):
        return self.call("PUT", path, body, expect)

    def patch(self, path, body, expect=200):
        return self.call("PATCH", path, on_the_wire(path, body), expect)

    def delete(self, path, expect=204):
        return self.call("DELETE", path, None, expect)

    def shot_id(self, name):
        return next(shot["id"] for shot in self.get("/notebook")["shots"] if shot["name"] == name)

    def refusal(self, method, path, body, field=None, status=422):
        """Make a call that must be refused; return the error, checked to name the field."""
        error = self.call(method, path, on_the_wire(path, body), status)["error"]
        assert set(error) == {"kind", "message", "fields"}
        if field is not None:
            field = field_on_the_wire(path, field)
            assert field in [item["field"] for item in error["fields"]], error
        return error
