"""How a stand-in feels: well, slow or failing, for good or for the next requests."""

import time
from dataclasses import dataclass

from flask import Flask, Response, jsonify, request

LONGEST_WAIT = 60.0


@dataclass
class Mood:
    """slow: seconds before every answer. failing: how many more requests get an error, below 0 for all."""

    slow: float = 0.0
    failing: int = 0

    def settle(self, app: Flask, says: str) -> None:
        """Let the app answer as it feels, and be told otherwise (POST /mood). says: what it answers when it fails."""

        @app.before_request
        def _as_it_feels() -> tuple[Response, int] | None:
            if request.path == "/mood":
                return None
            if self.slow:
                time.sleep(min(self.slow, LONGEST_WAIT))
            if self.failing:
                self.failing -= 1 if self.failing > 0 else 0
                return jsonify(error=says), 503
            return None

        @app.post("/mood")
        def _mood() -> Response | tuple[Response, int]:
            told = request.get_json(silent=True)
            slow, failing = (told or {}).get("slow", 0), (told or {}).get("failing", 0)
            if not isinstance(slow, int | float) or not isinstance(failing, int) or not 0 <= slow <= LONGEST_WAIT:
                return jsonify(error=f"slow is 0 to {LONGEST_WAIT:.0f} seconds, failing a whole number."), 422
            self.slow, self.failing = float(slow), failing
            return jsonify(slow=self.slow, failing=self.failing)
