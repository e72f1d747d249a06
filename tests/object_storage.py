"""A storage of objects on loopback that speaks as S3 does (its published REST interface, version 2006-03-01): one
bucket, in memory.
"""

from __future__ import annotations

import hashlib
import threading
from datetime import UTC, datetime
from email.utils import format_datetime
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from urllib.parse import parse_qs, unquote, urlsplit
from xml.sax.saxutils import escape

from defusedxml import ElementTree

_SPACE = 'xmlns="http://s3.amazonaws.com/doc/2006-03-01/"'


class ObjectStorage:
    """One bucket. objects: by their key, content and when it was written. Whoever brings no signature is refused."""

    def __init__(self, bucket: str) -> None:
        self.bucket = bucket
        self.objects: dict[str, tuple[bytes, datetime]] = {}
        self._server = ThreadingHTTPServer(("127.0.0.1", 0), _handler(self))
        threading.Thread(target=self._server.serve_forever, daemon=True).start()
        self.url = f"http://127.0.0.1:{self._server.server_port}"

    def stop(self) -> None:
        self._server.shutdown()
        self._server.server_close()


def _handler(storage: ObjectStorage) -> type[BaseHTTPRequestHandler]:
    class Handler(BaseHTTPRequestHandler):
        protocol_version = "HTTP/1.1"

        def do_PUT(self) -> None:
            content = self._body()
            if self._let_in() and self._key() is not None:
                storage.objects[str(self._key())] = content, datetime.now(UTC)
                self._answer(200, b"", {"ETag": _etag(content)})

        def do_GET(self) -> None:
            if not self._let_in():
                return
            key = self._key()
            if key is None:
                self._list()
            elif key in storage.objects:
                content, at = storage.objects[key]
                self._answer(200, content, {"ETag": _etag(content), "Last-Modified": format_datetime(at, usegmt=True)})
            else:
                self._answer(404, b"<Error><Code>NoSuchKey</Code></Error>")

        def do_POST(self) -> None:
            body = self._body()
            if not self._let_in():
                return
            # Several are deleted at once by POST /bucket?delete.
            keys = [item.text or "" for item in ElementTree.fromstring(body).iter() if item.tag.endswith("Key")]
            for key in keys:
                storage.objects.pop(key, None)
            said = "".join(f"<Deleted><Key>{escape(key)}</Key></Deleted>" for key in keys)
            self._answer(200, f"<DeleteResult {_SPACE}>{said}</DeleteResult>".encode())

        def do_DELETE(self) -> None:
            if self._let_in():
                storage.objects.pop(str(self._key()), None)
                self._answer(204, b"")

        def _list(self) -> None:
            prefix = parse_qs(urlsplit(self.path).query).get("prefix", [""])[0]
            said = "".join(
                f"<Contents><Key>{escape(key)}</Key><LastModified>{at.strftime('%Y-%m-%dT%H:%M:%S.000Z')}</LastModified>"
                f"<ETag>{escape(_etag(content))}</ETag><Size>{len(content)}</Size></Contents>"
                for key, (content, at) in sorted(storage.objects.items())
                if key.startswith(prefix)
            )
            listed = (
                "<ListBucketResult "
                f"{_SPACE}><Name>{storage.bucket}</Name><IsTruncated>false</IsTruncated>{said}</ListBucketResult>"
            )
            self._answer(200, listed.encode(), {"Content-Type": "application/xml"})

        def _key(self) -> str | None:
            """Which object is asked for; None: the bucket."""
            bucket, _, key = unquote(urlsplit(self.path).path).lstrip("/").partition("/")
            assert bucket == storage.bucket, self.path
            return key or None

        def _let_in(self) -> bool:
            if self.headers.get("Authorization", "").startswith("AWS4-HMAC-SHA256 Credential=any/"):
                return True
            self._answer(403, b"<Error><Code>AccessDenied</Code></Error>")
            return False

        def _body(self) -> bytes:
            return self.rfile.read(int(self.headers.get("Content-Length") or 0))

        def _answer(self, status: int, content: bytes, headers: dict[str, str] | None = None) -> None:
            self.send_response(status)
            for name, value in ({"Content-Length": str(len(content))} | (headers or {})).items():
                self.send_header(name, value)
            self.end_headers()
            self.wfile.write(content)

        def log_message(self, *_: object) -> None:
            pass

    return Handler


def _etag(content: bytes) -> str:
    return f'"{hashlib.md5(content, usedforsecurity=False).hexdigest()}"'
