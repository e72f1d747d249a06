"""Requests taken in whole before they are worked on; over TLS and against slow clients it is tried in
tools/test_doors.py.
"""

import asyncio

import pytest

from lucid_ridge.encrypted import AT_ONCE, WholeRequests

SCOPE = {
    "type": "http", "method": "POST", "path": "/x", "query_string": b"", "http_version": "1.1", "scheme": "https",
    "headers": [(b"host", b"notebook.example")], "server": ("127.0.0.1", 443), "client": ("10.0.0.9", 50000),
}  # fmt: skip


class Answer:
    def __init__(self, chunks):
        self.chunks, self.closed = chunks, False

    def __iter__(self):
        return iter(self.chunks)

    def close(self):
        self.closed = True


class App:
    """A WSGI application that remembers what it was asked."""

    def __init__(self):
        self.asked, self.answer = [], Answer([b"well ", b"said"])

    def __call__(self, environ, start_response):
        self.asked.append((environ["wsgi.url_scheme"], environ["REMOTE_ADDR"], environ["wsgi.input"].read()))
        start_response("200 OK", [("Content-Length", "9")])
        return self.answer


def _part(body, more=False):
    return {"type": "http.request", "body": body, "more_body": more}


async def _exchange(whole, messages):
    sent, left = [], iter(messages)

    async def receive():
        return next(left)

    async def send(message):
        sent.append(message)

    await whole(SCOPE, receive, send)
    return sent


def _told(sent):
    return sent[0]["status"], b"".join(message.get("body", b"") for message in sent[1:])


def test_a_body_arrives_whole_and_the_answer_is_closed():
    app = App()
    sent = asyncio.run(_exchange(WholeRequests(app, 10), [_part(b"abc", True), _part(b"defg", True), _part(b"")]))
    assert _told(sent) == (200, b"well said")
    assert app.asked == [("https", "10.0.0.9", b"abcdefg")]
    assert app.answer.closed


@pytest.mark.parametrize(("length", "status"), [(10, 200), (11, 413)])
def test_a_body_that_is_too_long_is_not_worked_on(length, status):
    app = App()
    sent = asyncio.run(_exchange(WholeRequests(app, 10), [_part(b"x" * 6, True), _part(b"x" * (length - 6))]))
    assert _told(sent)[0] == status
    assert len(app.asked) == (status == 200)


def test_a_body_that_says_that_it_is_too_long_is_not_waited_for():
    app, sent = App(), []

    async def receive():
        raise AssertionError("it was read")

    async def send(message):
        sent.append(message)

    scope = SCOPE | {"headers": [*SCOPE["headers"], (b"content-length", b"11")]}
    asyncio.run(WholeRequests(app, 10)(scope, receive, send))
    assert _told(sent)[0] == 413
    assert app.asked == []


def test_who_leaves_before_all_is_said_is_not_answered():
    app = App()
    assert asyncio.run(_exchange(WholeRequests(app, 10), [_part(b"abc", True), {"type": "http.disconnect"}])) == []
    assert app.asked == []


def test_unfinished_requests_take_no_room():
    async def crowd():
        app = App()
        whole, never = WholeRequests(app, 10), asyncio.Event()

        async def nothing_more():
            await never.wait()

        slow = [asyncio.create_task(whole(SCOPE, nothing_more, None)) for _ in range(3 * AT_ONCE)]
        answers = [await asyncio.wait_for(_exchange(whole, [_part(b"a")]), 20) for _ in range(2 * AT_ONCE)]
        for task in slow:
            task.cancel()
        await asyncio.gather(*slow, return_exceptions=True)
        return [_told(sent)[0] for sent in answers]

    assert asyncio.run(crowd()) == [200] * 2 * AT_ONCE


def test_answers_that_nobody_reads_take_no_room():
    async def crowd():
        app, begun = App(), []
        whole, never = WholeRequests(app, 10), asyncio.Event()

        async def receive():
            return _part(b"a")

        async def stuck(message):
            begun.append(message["type"])
            await never.wait()

        slow = [asyncio.create_task(whole(SCOPE, receive, stuck)) for _ in range(3 * AT_ONCE)]
        while len(begun) < len(slow):
            await asyncio.sleep(0.01)
        answers = [await asyncio.wait_for(_exchange(whole, [_part(b"a")]), 20) for _ in range(2 * AT_ONCE)]
        for task in slow:
            task.cancel()
        await asyncio.gather(*slow, return_exceptions=True)
        return [_told(sent)[0] for sent in answers]

    assert asyncio.run(asyncio.wait_for(crowd(), 60)) == [200] * 2 * AT_ONCE


def test_a_long_answer_comes_whole():
    app = App()
    app.answer = Answer([b"x" * 700_000, b"y" * 700_000])

    def long(environ, start_response):
        start_response("200 OK", [("Content-Length", "1400000")])
        return app.answer

    status, content = _told(asyncio.run(_exchange(WholeRequests(long, 10), [_part(b"")])))
    assert (status, content) == (200, b"x" * 700_000 + b"y" * 700_000)
    assert app.answer.closed


def test_it_lives_and_ends_when_it_is_told():
    sent = []

    async def live():
        left = iter([{"type": "lifespan.startup"}, {"type": "lifespan.shutdown"}])

        async def receive():
            return next(left)

        async def send(message):
            sent.append(message["type"])

        await WholeRequests(App(), 10)({"type": "lifespan"}, receive, send)

    asyncio.run(live())
    assert sent == ["lifespan.startup.complete", "lifespan.shutdown.complete"]
