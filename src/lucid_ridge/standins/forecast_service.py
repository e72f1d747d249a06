"""A forecast service on loopback, with the failures of real ones.

GET /forecast?latitude_deg=…&longitude_deg=…&zone=… answers JSON. mode: well; slow (answers after the client has given
up); down (503); late (a forecast of two days ago); wrong_zone (another zone's offset); no_zone (times without offset);
gaps (hours without figures); nonsense (not JSON).
"""

from __future__ import annotations

import json
import threading
from datetime import UTC, datetime, timedelta
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any
from urllib.parse import parse_qs, urlsplit
from zoneinfo import ZoneInfo

from .forecast import simulated_forecast

MODES = ("well", "slow", "down", "late", "wrong_zone", "no_zone", "gaps", "nonsense")
SLOW_S = 8.0


class ForecastService:
    """The service in threads of this process; stop() ends it. mode can be changed while it runs."""

    def __init__(self, mode: str = "well") -> None:
        if mode not in MODES:
            raise ValueError(f"mode must be one of {', '.join(MODES)}, not {mode}.")
        self.mode = mode
        self.asked = 0
        self._stopping = threading.Event()
        self._server = ThreadingHTTPServer(("127.0.0.1", 0), _handler(self))
        self._server.daemon_threads = True
        self._thread = threading.Thread(
            target=self._server.serve_forever, args=(0.05,), name="forecast service", daemon=True
        )
        self._thread.start()

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self._server.server_address[1]}/forecast"

    def stop(self) -> None:
        self._stopping.set()
        self._server.shutdown()
        self._server.server_close()

    def answer(self, query: dict[str, list[str]], now_utc: datetime) -> tuple[int, bytes]:
        """Return status and body for a query."""
        self.asked += 1
        if self.mode == "slow":
            self._stopping.wait(SLOW_S)
        if self.mode == "down":
            return 503, b"down for maintenance"
        if self.mode == "nonsense":
            return 200, b"<html>not here</html>"
        try:
            latitude, longitude, zone = (
                float(query["latitude_deg"][0]),
                float(query["longitude_deg"][0]),
                query["zone"][0],
            )
            ZoneInfo(zone)
        except (KeyError, ValueError, OSError):
            return 400, b'{"error": "latitude_deg, longitude_deg and zone are needed"}'
        asked_for = now_utc - timedelta(days=2) if self.mode == "late" else now_utc
        return 200, json.dumps(self._spoilt(simulated_forecast(latitude, longitude, zone, asked_for))).encode()

    def _spoilt(self, answer: dict[str, Any]) -> dict[str, Any]:
        if self.mode == "wrong_zone":
            for hour in answer["hours"]:
                hour["time"] = datetime.fromisoformat(hour["time"]).astimezone(ZoneInfo("Asia/Kolkata")).isoformat()
        if self.mode == "no_zone":
            for hour in answer["hours"]:
                hour["time"] = hour["time"][:19]
        if self.mode == "gaps":
            for number, hour in enumerate(answer["hours"]):
                if number % 8 in (2, 3, 4):
                    hour.update({name: None for name in hour if name != "time"})
        return answer


def _handler(service: ForecastService) -> type[BaseHTTPRequestHandler]:
    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            parts = urlsplit(self.path)
            status, body = (
                (404, b"{}") if parts.path != "/forecast" else service.answer(parse_qs(parts.query), datetime.now(UTC))
            )
            try:
                self.send_response(status)
                self.send_header("Content-Type", "application/json")
                self.send_header("Content-Length", str(len(body)))
                self.end_headers()
                self.wfile.write(body)
            except OSError:
                # The client has disconnected.
                pass

        def log_message(self, format: str, *args: Any) -> None:
            pass

    return Handler
